/** Home: the builds, each with the designs on its floor. */

import { useState } from "react";
import { FileTrigger, Input, TextField } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";

import { type Build, NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { theRegister } from "../../api/register";
import { Header } from "../../shell/Header";
import { Button, Trouble } from "../../ui/controls";
import { DiffersSheet } from "./DiffersSheet";
import { type Notice, type Removed, useBuilds } from "./builds";
import { StartSheet } from "./StartSheet";
import { Thumbnail } from "./Thumbnail";

const Page = styled.div`
  min-height: 100%;
  display: grid;
  grid-template-rows: auto 1fr auto;
`;

const Main = styled.main`
  padding: 22px 28px 40px;
  max-width: 1180px;
  width: 100%;
  margin: 0 auto;
  display: grid;
  gap: 30px;
  align-content: start;
  h1 {
    font-size: 26px;
    font-weight: 600;
  }
  .quiet {
    color: var(--quiet);
  }
  .line {
    display: flex;
    gap: 12px;
    align-items: center;
    flex-wrap: wrap;
  }
  .head h1 {
    margin-right: auto;
  }
  .notice {
    border: 1px solid var(--line);
    border-left: 4px solid var(--accent);
    padding: 8px 14px;
  }
  .notice p {
    flex: 1;
  }
`;

const Card = styled.article`
  display: grid;
  gap: 14px;
  h2 {
    font-size: 21px;
    font-weight: 600;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 16px;
    grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  }
  li {
    border: 1px solid var(--hair);
    background: var(--sheet);
    border-radius: 4px;
    display: grid;
    grid-template-rows: auto 1fr auto;
  }
  li > a {
    display: grid;
    color: inherit;
    text-decoration: none;
    padding: 12px 16px 8px;
    gap: 2px;
  }
  .damaged {
    display: grid;
    align-content: start;
    gap: 6px;
    padding: 12px 16px 8px;
  }
  li > a:hover strong {
    text-decoration: underline;
  }
  strong {
    font-size: 17px;
    font-weight: 600;
  }
  .foot {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
    padding: 4px 16px 10px;
    font-size: 14px;
    color: var(--quiet);
  }
  .foot a {
    color: var(--accent);
    padding: 8px 4px;
  }
`;

const Field = styled(TextField)`
  display: grid;
  gap: 4px;
  input {
    height: 38px;
    min-width: 240px;
    padding: 0 10px;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
  }
`;

const Quiet = styled(Button)`
  border-color: transparent;
  background: none;
`;

const Foot = styled.footer`
  padding: 10px 28px;
  font-size: 13px;
  color: var(--quiet);
  border-top: 1px solid var(--hair);
`;

export function Home() {
  const home = useBuilds();
  const { builds, trouble, deleted } = home;
  return (
    <Page>
      <Header />
      <Main>
        <div className="line head">
          <h1>Builds</h1>
          {home.many && (
            <Field value={home.find} onChange={home.look} aria-label="Find a build or a design">
              <Input maxLength={200} placeholder="Find a build or a design" />
            </Field>
          )}
          <NewBuild onMade={home.add} />
        </div>
        <Notices notices={home.notices} onRead={home.putAway} />
        {trouble && (
          <div className="line">
            <Trouble role="alert">{trouble}</Trouble>
            <Button onPress={() => void home.load()}>Try again</Button>
          </div>
        )}
        {deleted && (
          <div className="line" role="status">
            <p>“{deleted.name}” is off the floor. Its revisions are kept.</p>
            <Button onPress={() => void home.restore()}>Bring it back</Button>
          </div>
        )}
        {builds === null && !trouble && <p role="status">Fetching the builds…</p>}
        {builds?.length === 0 && (
          <p role="status">{home.find ? `Nothing is called “${home.find}”.` : NONE_YET}</p>
        )}
        {builds?.map((build) => (
          <OneBuild
            key={build.id}
            build={build}
            onChanged={() => home.refresh(build.id)}
            onDelete={(design) => void home.remove(design, build.id)}
          />
        ))}
        {home.more && <Button onPress={() => void home.more?.()}>Show older builds</Button>}
      </Main>
      <Foot>{theRegister().caution}</Foot>
    </Page>
  );
}

const NONE_YET = "No builds yet. Name the truck above; then start a design for each axle you are linking.";

/** What the shop has to hear of its store, until somebody has read it. */
function Notices({ notices, onRead }: { notices: Notice[]; onRead: (id: number) => Promise<void> }) {
  return notices.map((notice) => (
    <div key={notice.id} className="line notice" role="alert">
      <p>{notice.words}</p>
      <Button onPress={() => void onRead(notice.id)}>Put it away</Button>
    </div>
  ));
}

interface BuildProps {
  build: Build;
  onChanged: () => Promise<void>;
  onDelete: (design: Removed) => void;
}

function OneBuild({ build, onChanged, onDelete }: BuildProps) {
  const bringing = useBringing(build, onChanged);
  return (
    <Card aria-labelledby={`build-${build.id}`}>
      <div>
        <h2 id={`build-${build.id}`}>{build.name}</h2>
        {build.notes && <p className="quiet">{build.notes}</p>}
      </div>
      {build.designs.length === 0 && (
        <p>No designs on the floor yet. Start one from a layout, or bring in a design file.</p>
      )}
      <ul>
        {build.designs.map((design) => (
          <OneDesign key={design.id} design={design} onDelete={onDelete} />
        ))}
      </ul>
      {bringing.refused && (
        <Trouble role="alert" as="div">
          {bringing.refused.file} was not brought in:
          {bringing.refused.faults.map((fault) => (
            <div key={fault}>{fault}</div>
          ))}
        </Trouble>
      )}
      <div className="line">
        <StartSheet build={build} />
        <FileTrigger
          acceptedFileTypes={[".json", "application/json"]}
          onSelect={(files) => void bringing.bring(files?.[0])}
        >
          <Button>Bring in a design file</Button>
        </FileTrigger>
      </div>
      {bringing.differs && (
        <DiffersSheet
          file={bringing.differs.file}
          truck={build.name}
          differences={bringing.differs.differences}
          onChoose={bringing.choose}
          onLeave={bringing.leave}
        />
      )}
    </Card>
  );
}

function OneDesign({
  design,
  onDelete,
}: {
  design: Build["designs"][number];
  onDelete: (d: Removed) => void;
}) {
  const changed = new Date(design.changed_at).toLocaleDateString("en-US", { dateStyle: "medium" });
  return (
    <li>
      {design.damaged ? (
        <div className="damaged">
          <strong>{design.name}</strong>
          <span>{DAMAGED}</span>
        </div>
      ) : (
        <Link to={`/designs/${design.id}/links`}>
          <Thumbnail id={design.id} />
          <strong>{design.name}</strong>
          <span className="quiet">
            {design.end === "rear" ? "Rear axle" : "Front axle"}, {design.layout}
          </span>
        </Link>
      )}
      <div className="foot">
        <span>
          Revision {design.revision}, {changed}
        </span>
        {!design.damaged && (
          <span>
            <a href={`/api/designs/${design.id}/file`} download aria-label={`Save file: ${design.name}`}>
              Save file
            </a>
            <Quiet aria-label={`Delete ${design.name}`} onPress={() => onDelete(design)}>
              Delete
            </Quiet>
          </span>
        )}
      </div>
    </li>
  );
}

const DAMAGED =
  "Its newest revision cannot be read: the store is damaged there. End the server and start it again; it saves what can be read.";

interface Differing {
  file: string;
  text: string;
  differences: Schemas["Difference"][];
}

/** Bringing a file in: refused with its faults, or asked about where its truck's figures are not the build's. */
function useBringing(build: Build, onChanged: () => Promise<void>) {
  const [refused, setRefused] = useState<{ file: string; faults: string[] } | null>(null);
  const [differs, setDiffers] = useState<Differing | null>(null);
  const send = async (file: string, text: string, take: string[] | null) => {
    const answer = await server
      .importDesign(build.id, { text, take })
      .catch(() => ({ data: undefined, error: { message: NO_SERVER }, status: 0 }));
    const asks = answer.status === 409;
    setDiffers(asks ? { file, text, ...(answer.error as Pick<Differing, "differences">) } : null);
    setRefused(answer.data || asks ? null : { file, faults: faultsOf(answer.error) });
    await onChanged();
  };
  return {
    refused,
    differs,
    bring: async (file: File | undefined) => file && send(file.name, await file.text(), null),
    choose: (take: string[]) => void (differs && send(differs.file, differs.text, take)),
    leave: () => setDiffers(null),
  };
}

function faultsOf(error: unknown): string[] {
  const faults = (error as { faults?: { path: string; message: string }[] }).faults;
  return (
    faults?.map((fault) => (fault.path ? `${fault.path}: ${fault.message}` : fault.message)) ?? [
      reasonOf(error),
    ]
  );
}

function NewBuild({ onMade }: { onMade: (build: Build) => void }) {
  const [name, setName] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const create = async () => {
    const { data, error } = await server
      .createBuild({ name: name.trim(), notes: "" })
      .catch(() => ({ data: undefined, error: { message: NO_SERVER } }));
    setTrouble(data ? null : reasonOf(error));
    if (!data) return;
    setName("");
    onMade(data);
  };
  return (
    <form
      className="line"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) void create();
      }}
    >
      <Field value={name} onChange={setName} aria-label="New build">
        <Input maxLength={200} placeholder="Name of a new truck" />
      </Field>
      <Button type="submit" isDisabled={!name.trim()}>
        Start a build
      </Button>
      {trouble && <Trouble role="alert">{trouble}</Trouble>}
    </form>
  );
}

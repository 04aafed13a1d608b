/** Home: the builds, each with the designs on its floor. */

import { useState } from "react";
import { Input } from "react-aria-components";
import styled from "styled-components";

import { making } from "../../state/making";
import { type Build, reasonOf } from "../../api/client";
import { theRegister } from "../../api/register";
import { Header } from "../../frame/Header";
import { Button, Trouble } from "../../ui/controls";
import { BinSheet } from "./BinSheet";
import { BuildCard } from "./BuildCard";
import { type Notice, useBuilds } from "./builds";
import { Field } from "./fields";
import { Unreadable } from "./Unreadable";

const Page = styled.div`
  min-height: 100%;
  display: grid;
  grid-template-rows: auto 1fr auto;
`;

const Main = styled.main`
  padding: 1.375rem 1.75rem 2.5rem;
  max-width: 73.75rem;
  width: 100%;
  margin: 0 auto;
  display: grid;
  gap: 1.875rem;
  align-content: start;
  overflow-wrap: anywhere;
  h1 {
    font-size: 1.625rem;
    font-weight: 600;
  }
  .quiet {
    color: var(--quiet);
  }
  .line {
    display: flex;
    gap: 0.75rem;
    align-items: center;
    flex-wrap: wrap;
  }
  .head h1 {
    margin-right: auto;
  }
  .notice {
    border: 1px solid var(--line);
    border-left: 4px solid var(--accent);
    padding: 0.5rem 0.875rem;
  }
  .notice p {
    flex: 1;
  }
`;

const Foot = styled.footer`
  padding: 0.625rem 1.75rem;
  font-size: 0.8125rem;
  color: var(--quiet);
  border-top: 1px solid var(--hair);
`;

export function Home() {
  const home = useBuilds();
  const [bin, setBin] = useState(false);
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
          <Button onPress={() => setBin(true)}>Bin</Button>
        </div>
        <Notices notices={home.notices} onRead={home.putAway} />
        <Unreadable rows={home.unreadable} />
        {trouble && (
          <div className="line">
            <Trouble role="alert">{trouble}</Trouble>
            <Button onPress={() => void home.load()}>Try again</Button>
          </div>
        )}
        {builds === null && !trouble && <p role="status">Fetching the builds…</p>}
        {builds?.length === 0 && (
          <p role="status">{home.find ? `Nothing is called “${home.find}”.` : NONE_YET}</p>
        )}
        {builds?.map((build) => (
          <BuildCard
            key={build.id}
            build={build}
            deleted={deleted?.build === build.id ? deleted : null}
            onChanged={() => home.refresh(build.id)}
            onBringBack={() => void home.restore()}
            onRename={(design, name) => home.rename(design, name, build.id)}
            onDelete={(design) => void home.remove(design, build.id)}
            onRenameBuild={(name, notes) => home.renameBuild(build, name, notes)}
            onDeleteBuild={() => void home.removeBuild(build)}
          />
        ))}
        {home.more && <Button onPress={() => void home.more?.()}>Show older builds</Button>}
      </Main>
      <Foot>{theRegister().caution}</Foot>
      {bin && <BinSheet onBack={home.load} onClose={() => setBin(false)} />}
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

function NewBuild({ onMade }: { onMade: (build: Build) => void }) {
  const [name, setName] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const create = async () => {
    const { data, error } = await making.build({ name: name.trim(), notes: "" });
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

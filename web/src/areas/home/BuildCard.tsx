/** A build on Home, with the designs on its floor. */

import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";

import type { Build } from "../../api/client";
import { Button, Trouble } from "../../ui/controls";
import { useBringing } from "./bringing";
import { type DesignActs, DesignCard } from "./DesignCard";
import { DiffersSheet } from "./DiffersSheet";
import type { Deleted } from "./builds";
import { Quiet } from "./fields";
import { Naming } from "./Naming";
import { StartSheet } from "./StartSheet";

const Card = styled.article`
  display: grid;
  gap: 0.875rem;
  h2 {
    font-size: 1.3125rem;
    font-weight: 600;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 1rem;
    grid-template-columns: repeat(auto-fill, minmax(20.625rem, 1fr));
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
    padding: 0.75rem 1rem 0.5rem;
    gap: 2px;
    /* a press that lasts while the picture comes is one on the link, not on what the picture takes the place of */
    > svg {
      pointer-events: none;
    }
  }
  .damaged {
    display: grid;
    align-content: start;
    gap: 0.375rem;
    padding: 0.75rem 1rem 0.5rem;
  }
  li > a:hover strong {
    text-decoration: underline;
  }
  strong {
    font-size: 1.0625rem;
    font-weight: 600;
  }
  .why {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    overflow: hidden;
  }
  .naming {
    padding: 0.5rem 1rem 0.625rem;
  }
  .top {
    display: flex;
    gap: 0.5rem;
    align-items: baseline;
  }
  .foot {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    padding: 4px 1rem 0.625rem;
    font-size: 0.875rem;
    color: var(--quiet);
  }
  .foot a {
    color: var(--accent);
    padding: 0.5rem 4px;
  }
`;

interface BuildProps extends DesignActs {
  build: Build;
  /** What was just deleted here, if anything. */
  deleted: Deleted | null;
  onChanged: () => Promise<void>;
  onBringBack: () => void;
  onRenameBuild: (name: string, notes: string) => Promise<boolean>;
  onDeleteBuild: () => void;
}

export function BuildCard(props: BuildProps) {
  const { build, deleted, onRename, onDelete } = props;
  const bringing = useBringing(build, props.onChanged);
  if (deleted?.kind === "build") return <WasDeleted deleted={deleted} onBringBack={props.onBringBack} />;
  return (
    <Card aria-labelledby={`build-${build.id}`}>
      <Title {...props} />
      {build.designs.length === 0 && !deleted && (
        <p>No designs on the floor yet. Start one from a layout, or bring in a design file.</p>
      )}
      {deleted && <WasDeleted deleted={deleted} onBringBack={props.onBringBack} />}
      <ul>
        {build.designs.map((design) => (
          <DesignCard key={design.id} {...{ design, onRename, onDelete }} />
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

function Title({ build, onRenameBuild, onDeleteBuild }: BuildProps) {
  const [naming, setNaming] = useState(false);
  if (naming)
    return (
      <div>
        <h2 id={`build-${build.id}`} hidden>
          {build.name}
        </h2>
        <Naming
          what={build.name}
          name={build.name}
          notes={build.notes}
          onName={onRenameBuild}
          onLeave={() => setNaming(false)}
        />
      </div>
    );
  return (
    <div>
      <div className="top">
        <h2 id={`build-${build.id}`}>{build.name}</h2>
        <Quiet aria-label={`Rename the build ${build.name}`} onPress={() => setNaming(true)}>
          Rename
        </Quiet>
        <Quiet aria-label={`Delete the build ${build.name}`} onPress={onDeleteBuild}>
          Delete
        </Quiet>
      </div>
      {build.notes && <p className="quiet">{build.notes}</p>}
    </div>
  );
}

/** Where it stood, until something else is done: it can be brought back. */
function WasDeleted({ deleted, onBringBack }: { deleted: Deleted; onBringBack: () => void }) {
  return (
    <div className="line" role="status">
      <p>“{deleted.name}” is deleted; nothing of it is lost, and it lies in the bin.</p>
      <Button autoFocus onPress={onBringBack}>
        Bring it back
      </Button>
    </div>
  );
}

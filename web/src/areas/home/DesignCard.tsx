/** A design on Home: at a glance, to open, to save, to rename, to delete. */

import { useState } from "react";
import { Link } from "react-router";

import type { Build } from "../../api/client";
import { Quiet } from "./fields";
import { Naming } from "./Naming";
import { Thumbnail } from "./Thumbnail";

type Line = Build["designs"][number];

export interface DesignActs {
  onRename: (design: Line, name: string) => Promise<boolean>;
  onDelete: (design: Line) => void;
}

const DAMAGED =
  "Its newest revision cannot be read: the store is damaged there. End the server and start it again; it saves what can be read.";

export function DesignCard({ design, ...acts }: DesignActs & { design: Line }) {
  const [naming, setNaming] = useState(false);
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
          {design.why && <span className="why">{design.why}</span>}
          <span className="quiet">
            {design.end === "rear" ? "Rear axle" : "Front axle"}, {design.layout}
          </span>
        </Link>
      )}
      {naming ? (
        <div className="naming">
          <Naming
            what={design.name}
            name={design.name}
            onName={(name) => acts.onRename(design, name)}
            onLeave={() => setNaming(false)}
          />
        </div>
      ) : (
        <div className="foot">
          <span>
            Revision {design.revision}, {changed}
          </span>
          {!design.damaged && (
            <span>
              <a href={`/api/designs/${design.id}/file`} download aria-label={`Save file: ${design.name}`}>
                Save file
              </a>
              <Quiet aria-label={`Rename ${design.name}`} onPress={() => setNaming(true)}>
                Rename
              </Quiet>
              <Quiet aria-label={`Delete ${design.name}`} onPress={() => acts.onDelete(design)}>
                Delete
              </Quiet>
            </span>
          )}
        </div>
      )}
    </li>
  );
}

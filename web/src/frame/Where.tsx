/** Where one is: the build, the axle, the design, the revision; each is changed from where it is named. */

import { useState } from "react";
import { useLocation, useNavigate } from "react-router";

import { type Build, NO_SERVER, reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { useDesign } from "../state/design";
import { MenuOf, type Section } from "../ui/menu";

const ENDS = ["front", "rear"] as const;
const NAMES = { front: "Front", rear: "Rear" };

type Said = { build: Build } | { why: string } | null;

/** The designs of the open build, asked for when somebody wants to go to one. */
function useBuild(): [Said, (open: boolean) => void] {
  const [said, setSaid] = useState<Said>(null);
  const id = useDesign((s) => s.stored?.build);
  const ask = (open: boolean) => {
    if (!open || id === undefined) return;
    server
      .build(id)
      .then(({ data, error }) => setSaid(data ? { build: data } : { why: reasonOf(error) }))
      .catch(() => setSaid({ why: NO_SERVER }));
  };
  return [said, ask];
}

export function Where({ document, design }: { document: Document; design: number }) {
  const [said, ask] = useBuild();
  const navigate = useNavigate();
  const area = useLocation().pathname.split("/").at(-1) ?? "links";
  const name = useDesign((s) => s.stored?.build_name ?? "");
  const { end } = document.axle;
  const why = document.notes.trim().split("\n")[0]!;
  const go = (key: string) => {
    if (key === "builds") void navigate("/");
    else if (key !== "none") void navigate(`/designs/${key}/${area}`);
  };
  const designs = said && "build" in said ? said.build.designs.filter(({ damaged }) => !damaged) : [];
  const waiting: Section = { name: said && "why" in said ? said.why : "Fetching them…", lines: [["builds", "All builds"]] }; // prettier-ignore
  const of = (which: "front" | "rear"): Section => ({
    name: `${NAMES[which]} axle`,
    lines: designs.filter((one) => one.end === which).map((one) => [String(one.id), one.name] as const),
    now: String(design),
  });
  const filled = (sections: Section[]) =>
    designs.length > 0 ? sections.filter(({ lines }) => lines.length > 0) : [waiting];
  const others = ENDS.filter((one) => one !== end).map(of);
  return (
    <>
      <MenuOf
        label={`Build: ${name}`}
        opener={<span className="build">{name}</span>}
        sections={filled([...ENDS.map(of), { name: "Elsewhere", lines: [["builds", "All builds"]] }])}
        {...{ onOpen: ask, onPress: go }}
      />
      <MenuOf
        label={`Axle: ${NAMES[end].toLowerCase()}`}
        opener={NAMES[end]}
        sections={filled(
          others.some(({ lines }) => lines.length > 0)
            ? others
            : [{ name: `No ${end === "rear" ? "front" : "rear"} axle is drawn yet`, lines: [["builds", "Start one on its build"]] }],
        )}
        {...{ onOpen: ask, onPress: go }}
      />
      <h1 title={document.name}>{document.name}</h1>
      <MenuOf
        label="Other designs of this axle"
        opener={<span aria-hidden="true">▾</span>}
        sections={filled([of(end)])}
        {...{ onOpen: ask, onPress: go }}
      />
      {why !== "" && (
        <p className="why" title={why}>
          {why}
        </p>
      )}
    </>
  ); // prettier-ignore
}

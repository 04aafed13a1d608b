/** The drive and tune log: each run with its setting, what was felt and the figures then; what could be behind it. */

import { useState } from "react";

import type { Finding } from "../../api/client";
import { server } from "../../api/client";
import { freeId } from "../../document/ids";
import { quantityOf, show } from "../../figures/readings";
import { Causes } from "../../panels/Causes";
import { EditorBox } from "../../panels/EditorBox";
import { OpeningRow } from "../../panels/OpeningRow";
import { useAsked } from "../../solve/asking";
import { useDesign } from "../../state/design";
import { useDraft } from "../../state/drafts";
import { type Drive, recordOf, withRecord } from "../../state/fitUp";
import { usePreferences } from "../../state/preferences";
import { useSolver } from "../../state/solver";
import { useTruck } from "../../state/truck";
import { Button, Choice, Entries, List, Toggle, Trouble, Typed } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import type { Units } from "../../units/tape";
import type { Shown } from "./FitUp";
import { HoleToTry } from "./HoleToTry";

type Felt = Drive["felt"][number];
type Than = NonNullable<Drive["than_before"]>;

const THAN: Record<Than, string> = {
  better: "Better than before",
  same: "No other",
  worse: "Worse than before",
};

export function Drives({ document, truck, units }: Shown) {
  const { drives } = recordOf(truck, document);
  const [open, setOpen] = useState<string | null>(null);
  const key = JSON.stringify(document);
  const asked = useAsked(key, (signal) => server.complaints({ document }, signal), 300);
  const complaints = asked.data ?? [];
  const wordsOf = (felt: Felt) => complaints.find((one) => one.complaint === felt)?.words ?? felt;
  const last = drives.at(-1);
  const behind = complaints.filter(({ complaint }) => last?.felt.includes(complaint));
  return (
    <section aria-label="Drives">
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      <p className="quiet">
        {drives.length === 0
          ? "No run is written down yet. Each is kept with the figures of the design as it stands, so that the next can be held against it."
          : "The last run stands first; its figures are held against those of the run before."}
      </p>
      <List aria-label="Runs">
        {drives.toReversed().map((drive, n) => (
          <OpeningRow
            key={drive.id}
            of="drive"
            id={drive.id}
            mark={drive.felt.length > 0 ? "■" : "○"}
            name={drive.setting || "Setting not said"}
            worth={drive.at.slice(0, 10)}
            open={open === drive.id}
            onPress={() => setOpen(open === drive.id ? null : drive.id)}
          >
            <Run {...{ drive, units, wordsOf }} before={drives[drives.length - n - 2] ?? null} />
          </OpeningRow>
        ))}
      </List>
      <Another {...{ document, truck }} complaints={complaints} />
      {behind.length > 0 && (
        <section aria-label="What could be behind it">
          <h2>What could be behind it</h2>
          <p className="quiet">By the figures of the design as it stands now.</p>
          {behind.map((one) => (
            <Causes key={one.complaint} {...{ one, units }} />
          ))}
          <HoleToTry {...{ document, units }} felt={last!.felt} />
        </section>
      )}
    </section>
  );
}

interface OfRun {
  drive: Drive;
  before: Drive | null;
  units: Units;
  wordsOf: (felt: Felt) => string;
}

function Run({ drive, before, units, wordsOf }: OfRun) {
  const findings = useSolver((s) => s.solved?.answer.findings) ?? [];
  const rows = changedIn(drive, before, findings).map(({ finding, was, now }) => [
    finding.title,
    show(was, quantityOf(finding), units),
    show(now, quantityOf(finding), units),
  ]);
  const told = [
    drive.design && `${drive.design}${drive.revision ? `, revision ${drive.revision}` : ""}`,
    drive.by && `by ${drive.by}`,
    drive.felt.length > 0 ? drive.felt.map(wordsOf).join("; ") : "nothing felt amiss",
    drive.than_before && THAN[drive.than_before].toLowerCase(),
  ];
  return (
    <EditorBox>
      <p>{told.filter(Boolean).join("; ")}.</p>
      {drive.note && <p>{drive.note}</p>}
      {before &&
        (rows.length > 0 ? (
          <FigureSection title="Against the run before" head={["", "Before", "Then"]} rows={rows} />
        ) : (
          <p className="quiet">No judged figure was another than in the run before.</p>
        ))}
    </EditorBox>
  );
}

const ALIKE = 1e-6;

/** The judged figures that were others in a run than in the one before it. */
function changedIn(drive: Drive, before: Drive | null, findings: readonly Finding[]) {
  return findings.flatMap((finding) => {
    const [was, now] = [before?.figures?.[finding.id], drive.figures?.[finding.id]];
    return was !== undefined && now !== undefined && Math.abs(now - was) > ALIKE
      ? [{ finding, was, now }]
      : [];
  });
}

type Complaints = readonly { complaint: Felt; words: string }[];

function Another({ document, truck, complaints }: Omit<Shown, "units"> & { complaints: Complaints }) {
  const record = recordOf(truck, document);
  const { by, setBy } = usePreferences();
  const [setting, setSetting] = useDraft("run’s setting", "");
  const [note, setNote] = useDraft("run’s note", "");
  const [felt, setFelt] = useDraft<readonly Felt[]>("run felt", []);
  const [than, setThan] = useDraft<Than | "unsaid">("run than before", "unsaid");
  const [why, setWhy] = useState<string | null>(null);
  const put = async () => {
    if (setting.trim() === "") {
      setWhy("Say with which setting it was driven: holes, turns, springs, pressures.");
      return;
    }
    setWhy(null);
    const drive = { ...driven(record.drives), setting: setting.trim(), note: note.trim(), by: by.trim(), felt: [...felt],
      than_before: than === "unsaid" ? null : than }; // prettier-ignore
    const next = withRecord(truck, document, { ...record, drives: [...record.drives, drive] });
    if (!(await useTruck.getState().edit(next))) return;
    setSetting("");
    setNote("");
    setFelt([]);
    setThan("unsaid");
  };
  return (
    <EditorBox>
      <div className="row" role="group" aria-label="What was felt">
        {complaints.map(({ complaint, words }) => (
          <Toggle
            key={complaint}
            isSelected={felt.includes(complaint)}
            onChange={(on) => setFelt(on ? [...felt, complaint] : felt.filter((one) => one !== complaint))}
          >
            {words}
          </Toggle>
        ))}
      </div>
      <Entries
        aria-label="Write a run down"
        onSubmit={(event) => {
          event.preventDefault();
          void put();
        }}
      >
        <Typed words="Setting" value={setting} onChange={setSetting} />
        <Typed words="Note" value={note} onChange={setNote} />
        <Typed words="Who" value={by} onChange={setBy} />
        {record.drives.length > 0 && (
          <Choice label="Than the run before" value={than} options={THANS} onChange={setThan} />
        )}
        <Button type="submit">Write it down</Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

const THANS: readonly [Than | "unsaid", string][] = [
  ["unsaid", "Not said"],
  ...(Object.entries(THAN) as [Than, string][]),
];

/** A run of the open design as it stands: when, which revision, and its judged figures. */
function driven(drives: readonly Drive[]): Pick<Drive, "id" | "at" | "design" | "revision" | "figures"> {
  const { stored, document } = useDesign.getState();
  const findings = useSolver.getState().solved?.answer.findings ?? [];
  return {
    id: freeId(drives, "d"),
    at: new Date().toISOString(),
    design: document?.name ?? "",
    revision: stored?.number ?? null,
    figures: Object.fromEntries(findings.flatMap(({ id, value }) => (value === null ? [] : [[id, value]]))),
  };
}

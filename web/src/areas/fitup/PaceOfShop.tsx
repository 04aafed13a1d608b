/** How the shop works: hours a day, days off, and its own hours for each gate. */

import { useState } from "react";

import type { Document } from "../../document/document";
import { EditorBox } from "../../panels/EditorBox";
import { useTexts } from "../../state/drafts";
import { type Gate, gates, recordOf, withRecord } from "../../state/fitUp";
import type { Pace } from "../../state/orders";
import { type TruckDocument, useTruck } from "../../state/truck";
import { USUAL_PACE } from "../../state/written";
import { Button, Entries, Toggle, Trouble, Typed } from "../../ui/controls";

const WEEK = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
const SAID: Record<(typeof WEEK)[number], string> = {
  mon: "Mon", tue: "Tue", wed: "Wed", thu: "Thu", fri: "Fri", sat: "Sat", sun: "Sun",
}; // prettier-ignore
const A_DAY = "a_day";

export function PaceOfShop({ document, truck }: { document: Document; truck: TruckDocument }) {
  const record = recordOf(truck, document);
  const pace: Pace = { ...USUAL_PACE, ...record.pace };
  const [texts, setTexts] = useTexts("pace of the shop");
  const [why, setWhy] = useState<string | null>(null);
  const store = (next: Pace) =>
    useTruck.getState().edit(withRecord(truck, document, { ...record, pace: next }));
  const shown = (key: string) => texts[key] ?? standing(pace, key);
  const put = async () => {
    const next = typed(pace, shown);
    setWhy(typeof next === "string" ? next : null);
    if (typeof next !== "string" && (await store(next))) setTexts({});
  };
  const off = (day: (typeof WEEK)[number], free: boolean) => {
    const days = WEEK.filter((one) => (one === day ? free : pace.off.includes(one)));
    setWhy(days.length === WEEK.length ? "One day is worked." : null);
    if (days.length < WEEK.length) void store({ ...pace, off: days });
  };
  return (
    <EditorBox>
      <h2>The shop’s own pace</h2>
      <div className="row" role="group" aria-label="Days off">
        {WEEK.map((day) => (
          <Toggle key={day} isSelected={pace.off.includes(day)} onChange={(free) => off(day, free)}>
            {`${SAID[day]}${pace.off.includes(day) ? " off" : ""}`}
          </Toggle>
        ))}
      </div>
      <Entries
        aria-label="The shop’s own pace"
        onSubmit={(event) => {
          event.preventDefault();
          void put();
        }}
      >
        {[[A_DAY, "Hours on a working day"], ...gates().map(({ id, name }) => [id, `Hours: ${name}`])].map(
          ([key, words]) => (
            <Typed
              key={key}
              words={words!}
              value={shown(key!)}
              onChange={(text) => setTexts({ ...texts, [key!]: text })}
            />
          ),
        )}
        <Button type="submit">Take these hours</Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

const standing = (pace: Pace, key: string): string =>
  key === A_DAY ? String(pace.a_day) : (pace.gates?.[key as Gate]?.toString() ?? "");

/** The pace as typed; a gate left empty has no hours of its own. */
function typed(pace: Pace, shown: (key: string) => string): Pace | string {
  const day = Number(shown(A_DAY));
  if (!(day >= 0.5 && day <= 24)) return "A working day has half an hour to 24.";
  const hours: Partial<Record<Gate, number>> = {};
  for (const { id, name } of gates()) {
    const text = shown(id).trim();
    if (text === "") continue;
    const value = Number(text);
    if (!(value > 0 && value <= 1000)) return `${name}: hours are more than nothing, or left empty.`;
    hours[id] = value;
  }
  return { ...pace, a_day: day, gates: hours };
}

/** What a figure of the baseline should be and how far off it may be: the house's value, or this truck's own, typed. */

import { type SubmitEvent, useState } from "react";

import type { Schemas } from "../../api/client";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { readTyped, showFigure, typedFigure } from "./reading";

type Figure = Schemas["BaselineOut"]["figures"][number];

const GRADES = {
  inside: "inside",
  outside: "outside",
  unsure: "too near the edge to say",
} as const;

/** The truck with its own target for a figure; null: the house's again. */
export function withTarget(
  truck: TruckDocument,
  id: string,
  target: { target: number; tolerance: number } | null,
): TruckDocument {
  const others = Object.entries(truck.targets ?? {}).filter(([name]) => name !== id);
  return { ...truck, targets: Object.fromEntries(target ? [...others, [id, target]] : others) };
}

export function Wanted({ figure, truck, units }: { figure: Figure; truck: TruckDocument; units: Units }) {
  const [open, setOpen] = useState(false);
  const { id, target, tolerance, grade, own, unit, words } = figure;
  if (open) return <WantedForm {...{ figure, truck, units }} onDone={() => setOpen(false)} />;
  return (
    <>
      {tolerance !== null && grade && (
        <>
          {showFigure(target ?? 0, tolerance, unit, units)}, {own ? "set here" : "house value"}:{" "}
          <span className={grade}>{GRADES[grade]}</span>{" "}
        </>
      )}
      <Button
        aria-label={`Set what is wanted: ${words.toLowerCase()}`}
        data-wanted={id}
        onPress={() => setOpen(true)}
      >
        Set
      </Button>
    </>
  );
}

function WantedForm(props: { figure: Figure; truck: TruckDocument; units: Units; onDone: () => void }) {
  const { figure, truck, units, onDone } = props;
  const edit = useTruck((s) => s.edit);
  const [texts, setTexts] = useState([
    typedFigure(figure.target ?? figure.value, figure.unit, units),
    figure.tolerance === null ? "" : typedFigure(figure.tolerance, figure.unit, units),
  ]);
  const [why, setWhy] = useState<string | null>(null);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const [target, tolerance] = texts.map((text) => readTyped(text, figure.unit, units));
    if (typeof target !== "number" || typeof tolerance !== "number")
      setWhy(String(typeof target === "number" ? tolerance : target));
    else if (tolerance < 0) setWhy("How far off it may be is not below nothing.");
    else if (await edit(withTarget(truck, figure.id, { target, tolerance }))) onDone();
  };
  return (
    <form aria-label={`What is wanted: ${figure.words}`} onSubmit={(event) => void submit(event)}>
      {["Should be", "give or take"].map((name, n) => (
        <label key={name}>
          {name}{" "}
          <input
            size={7}
            value={texts[n]}
            onChange={(event) => {
              setWhy(null);
              setTexts(texts.map((old, i) => (i === n ? event.target.value : old)));
            }}
          />{" "}
        </label>
      ))}
      <Button type="submit">Set it</Button>{" "}
      {figure.own && (
        <Button onPress={() => void edit(withTarget(truck, figure.id, null)).then((had) => had && onDone())}>
          House value again
        </Button>
      )}{" "}
      <Button onPress={onDone}>Leave it</Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </form>
  );
}

/** As found: a suspension recorded before stripping, and its copy onto another housing with what is left over. */

import { type SubmitEvent, useState } from "react";
import { useNavigate } from "react-router";

import { making } from "../../state/making";
import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { useTruck } from "../../state/truck";
import { Button, Choice, Entries, Toggle, Trouble } from "../../ui/controls";
import { lengthFigure, plain, readLength, type Units } from "../../units/tape";

type Onto = Schemas["OntoIn"];

/** What is typed of the new axle; its tires and track are the truck’s, in force. */
const FIELDS = [
  ["tube_diameter", "Axle tube"],
  ["pinion_ahead", "Pinion’s joint, ahead of the axle"],
  ["pinion_above", "… above its middle"],
  ["pad", "Pad or perch thicker by"],
] as const;
type Key = (typeof FIELDS)[number][0] | "pinion_angle";
type Texts = Record<Key, string>;

/** The new axle as typed, on the truck’s tires; or what can’t be read. */
export function ontoOf(
  texts: Texts,
  tires: Pick<Onto, "tire_diameter" | "tire_radius_loaded" | "tire_width" | "track">,
  units: Units,
): Onto | string {
  const read: Partial<Record<Key, number>> = {};
  for (const [key, words] of FIELDS) {
    const mm = readLength(texts[key], units);
    if (typeof mm === "string") return `${words.replace("… ", "Pinion’s joint, ")}: ${mm}`;
    read[key] = mm;
  }
  const angle = Number(texts.pinion_angle.replace("°", "").replace("−", "-"));
  if (texts.pinion_angle.trim() === "" || !(Math.abs(angle) <= 90))
    return "The pinion’s angle is typed in degrees, like 6.5.";
  if (read.tube_diameter! <= 0) return "An axle tube has a diameter.";
  return { ...tires, ...(read as Record<(typeof FIELDS)[number][0], number>), pinion_angle: angle };
}

function standing({ axle }: Document, units: Units): Texts {
  const [x, , z] = axle.pinion.joint;
  const fig = (mm: number) => lengthFigure(mm, units);
  return {
    tube_diameter: fig(axle.tube_diameter), pinion_ahead: fig(x), pinion_above: fig(z - axle.tire_radius_loaded), pad: "0",
    pinion_angle: plain(axle.pinion.angle, 1),
  }; // prettier-ignore
}

export function Found({ document, units }: { document: Document; units: Units }) {
  const asFound = document.as_found;
  const mark = (on: boolean) => {
    const { document: now, edit } = useDesign.getState();
    if (now) edit({ ...now, as_found: on });
  };
  return (
    <>
      <div className="row">
        <Toggle isSelected={asFound} onChange={mark}>
          As found, before stripping
        </Toggle>
      </div>
      <p className="quiet">
        {asFound
          ? "Recorded as it was: it keeps its own tires, track and weights, whatever the truck gets."
          : "Mark it when it records the old suspension, mounts, pinion, heights and lengths, before it is stripped."}
      </p>
      {asFound && <CopyForm {...{ document, units }} />}
    </>
  );
}

interface Copying {
  texts: Texts;
  brackets: Schemas["CopyIn"]["brackets"];
}

/** Copy it onto another housing, as a design of its own. */
function useCopying(document: Document, units: Units) {
  const [given, setGiven] = useState<Copying>({ texts: standing(document, units), brackets: "remade" });
  const [copied, setCopied] = useState<Schemas["CopiedOut"] | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const navigate = useNavigate();
  const change = (next: Copying) => {
    setWhy(null);
    setCopied(null);
    setGiven(next);
  };
  const look = async (event: SubmitEvent) => {
    event.preventDefault();
    const tires = useTruck.getState().truck?.document.axles[document.axle.end] ?? document.axle;
    const { tire_diameter, tire_radius_loaded, tire_width, track } = tires;
    const onto = ontoOf(given.texts, { tire_diameter, tire_radius_loaded, tire_width, track }, units);
    if (typeof onto === "string") {
      setWhy(onto);
      return;
    }
    const answer = await server
      .copyOnto({ document, onto, brackets: given.brackets, units })
      .catch(() => null);
    if (answer?.data) setCopied(answer.data);
    else setWhy(answer ? reasonOf(answer.error) : NO_SERVER);
  };
  const keep = async () => {
    const build = useDesign.getState().stored?.build;
    if (!copied || build === undefined) return;
    const made = { ...copied.document, name: `${document.name}, on another housing` };
    const answer = await making.importDesign(build, { text: JSON.stringify(made), take: [] }, made.name);
    if (answer.data) void navigate(`/designs/${answer.data.design}/links`);
    else setWhy(reasonOf(answer.error));
  };
  return { given, change, copied, why, look, keep };
}

function CopyForm({ document, units }: { document: Document; units: Units }) {
  const { given, change, copied, why, look, keep } = useCopying(document, units);
  const field = (key: Key, words: string) => (
    <label key={key}>
      {words}
      <input
        value={given.texts[key]}
        autoComplete="off"
        data-onto={key}
        onChange={(event) => change({ ...given, texts: { ...given.texts, [key]: event.target.value } })}
      />
    </label>
  );
  return (
    <>
      <Entries aria-label="Copy it onto another housing" onSubmit={(event) => void look(event)}>
        {FIELDS.map(([key, words]) => field(key, words))}
        {field("pinion_angle", "Pinion, nose up, degrees")}
        <Choice
          label="Axle brackets"
          value={given.brackets}
          options={[
            ["remade", "Brackets made new"],
            ["kept", "Old brackets kept"],
          ]}
          onChange={(brackets) => change({ ...given, brackets })}
        />
        <Button type="submit">Copy it: what is left over?</Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {copied && (
        <div role="status">
          {copied.left_over.length === 0 ? (
            <p>Nothing is left over: it fits as it was.</p>
          ) : (
            <ul aria-label="Left over">
              {copied.left_over.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          )}
          <Button className="main" onPress={() => void keep()}>
            Keep it as a design
          </Button>
        </div>
      )}
    </>
  );
}

/** Starting a design: choose a layout and a school, say what is measured, and stand on the floor. */

import { type ReactNode, useState } from "react";
import { Dialog, DialogTrigger, Heading, Input, Label, TextField } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";

import { making } from "../../state/making";
import { type Build, reasonOf, type Schemas } from "../../api/client";
import { theRegister } from "../../api/register";
import { Button, Choice, Shade, Sheet, Trouble } from "../../ui/controls";
import { usePreferences } from "../../state/preferences";
import { increment, length, readLength, type Units } from "../../units/tape";
import { textField } from "../../ui/field";

type Start = Schemas["StartIn"];
type Measure = "tire_diameter" | "track" | "wheelbase" | "rail_underside" | "rail_width";

const LAYOUTS: Record<Start["layout"], [name: string, why: string]> = {
  double_triangulated: ["Four links, both pairs triangulated", "Needs room above the axle and between the rails. Watch shallow angles: side load multiplies in them."],
  single_triangulated: ["Four links, uppers triangulated", "When a tank or exhaust sits between the lowers. Watch the load in the uppers."],
  single_apex: ["Four links, uppers meeting at the axle", "Narrow room on the axle, a tall center mount. One joint takes everything."],
  three_link_panhard: ["Three links and a panhard bar", "Front axles with the engine in the way; rears with a big tank. Drifts sideways on the bar's arc."],
  parallel_panhard: ["Four parallel links and a panhard bar", "Drag and street, with adjustable holes. Binds in articulation: bushings must give."],
  parallel_watts: ["Four parallel links and a Watts link", "No sideways drift and a low roll center. The pivot's height sets it."],
  parallel_slider: ["Four parallel links and a wishbone slider", "Drag racing, straight up and down. The slider wears."],
  radius_arms_panhard: ["Radius arms and a panhard bar", "Simple, for fronts. Binds in roll, and caster swings with travel."],
  trailing_arms: ["Long trailing arms, uppers triangulated", "Fast desert, much travel, springs on the arms. Loads bend the arm."],
}; // prettier-ignore

const MEASURES: [Measure, string, number][] = [
  ["tire_diameter", "Tire diameter", 838.2],
  ["track", "Track, center to center of the tires", 1600.2],
  ["wheelbase", "Wheelbase", 2794],
  ["rail_underside", "Frame rails, underside off the floor", 533.4],
  ["rail_width", "Frame rails, outside to outside", 863.6],
];

const Card = styled(Sheet)`
  form {
    display: grid;
    gap: 0.875rem;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  .row {
    display: grid;
    grid-template-columns: 6em minmax(0, 1fr);
    gap: 2px 0.75rem;
    align-items: center;
  }
  .row .quiet {
    grid-column: 2;
  }
`;

const Field = styled(TextField)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 11em;
  gap: 0.75rem;
  align-items: center;
  input {
    ${textField}
    min-width: 0;
  }
  &[data-invalid] input {
    border: 2px solid var(--stop);
  }
  .why {
    grid-column: 1 / -1;
    color: var(--stop);
    font-size: 0.875rem;
  }
`;

/** A measure, and where it comes from. */
const Sourced = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 8.5em;
  gap: 0.5rem;
  align-items: center;
`;

export function StartSheet({ build }: { build: Build }) {
  return (
    <DialogTrigger>
      <Button className="main">Start a design</Button>
      <Shade isDismissable>
        <Card>
          <Dialog>
            {({ close }) => (
              <>
                <Heading slot="title">Start a design for {build.name}</Heading>
                <StartForm build={build} onClose={close} />
              </>
            )}
          </Dialog>
        </Card>
      </Shade>
    </DialogTrigger>
  );
}

type Said = "measured" | "catalog" | "guessed";
const SAID: readonly (readonly [Said, string])[] = [
  ["measured", "Measured"],
  ["catalog", "Catalog"],
  ["guessed", "Guessed"],
];
type Choices = Pick<Start, "end" | "layout" | "school" | "use">;

/** What is chosen and typed for a start, and sending it: only what this truck does not know is asked. */
function useStart(build: Build) {
  const units = usePreferences((s) => s.units);
  const navigate = useNavigate();
  const [choices, setChoices] = useState<Choices>({
    end: "rear", layout: "double_triangulated", school: "numbers_first", use: "trail",
  }); // prettier-ignore
  const [typed, setTyped] = useState<Partial<Record<Measure, string>>>({});
  const [said, setSaid] = useState<Partial<Record<Measure, Said>>>({});
  const [trouble, setTrouble] = useState<string | null>(null);
  const asked = MEASURES.filter(([key]) => !build.known.includes(key)).map(([key, name, standard]) => ({
    key,
    name,
    text: typed[key] ?? length(standard, units),
    source: said[key] ?? (typed[key] === undefined ? "guessed" : "measured"),
    ...measured(typed[key], standard, units),
  }));
  const begin = async () => {
    const sizes = Object.fromEntries(asked.map((m) => [m.key, m.mm])) as Partial<Record<Measure, number>>;
    const sources = Object.fromEntries(asked.map((m) => [m.key, m.source]));
    const name = `${build.name}, ${choices.end}`;
    const start = { name, ...choices, ...sizes, sources, increment: increment(units, "shop") };
    const { data, error } = await making.startDesign(build.id, start);
    if (data) void navigate(`/designs/${data.design}/links`);
    else setTrouble(reasonOf(error));
  };
  return {
    choices, asked, trouble, begin,
    choose: (change: Partial<Choices>) => setChoices({ ...choices, ...change }),
    type: (key: Measure, text: string) => setTyped({ ...typed, [key]: text }),
    say: (key: Measure, source: Said) => setSaid({ ...said, [key]: source }),
    ready: asked.every((m) => m.why === null),
  }; // prettier-ignore
}

function StartForm({ build, onClose }: { build: Build; onClose: () => void }) {
  const { choices, asked, trouble, begin, choose, type, say, ready } = useStart(build);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) void begin();
      }}
    >
      <Chosen choices={choices} choose={choose} knowsUse={build.truck !== null} />
      {asked.map(({ key, name, text, why, source }) => (
        <Sourced key={key}>
          <Field value={text} onChange={(next) => type(key, next)} isInvalid={why !== null}>
            <Label>{name}</Label>
            <Input autoComplete="off" spellCheck={false} />
            {why !== null && <span className="why">{why}</span>}
          </Field>
          <Choice
            label={`Where it comes from: ${name}`}
            value={source}
            options={SAID}
            onChange={(next) => say(key, next)}
          />
        </Sourced>
      ))}
      <p className="quiet">
        {build.known.length > 0 && "Tires, track, wheelbase and weights are the truck’s own. "}
        Mounts are worked out from these, moved until nothing is left to fix for that use. What nobody
        measured or looked up is guessed until somebody does. Move them from there; nothing is final until you
        say so.
      </p>
      {trouble && <Trouble role="alert">{trouble}</Trouble>}
      <div className="choices">
        <Button type="submit" className="main" isDisabled={!ready}>
          Put it on the floor
        </Button>
        <Button onPress={onClose}>Leave it</Button>
      </div>
    </form>
  );
}

const ENDS: [Start["end"], string][] = [
  ["rear", "Rear"],
  ["front", "Front"],
];

/** Axle, layout, use and school; the use only where no truck says what it is built for. */
function Chosen(props: { choices: Choices; choose: (change: Partial<Choices>) => void; knowsUse: boolean }) {
  const { choices, choose } = props;
  const { end, layout, school, use } = choices;
  const { uses, schools } = theRegister();
  return (
    <>
      <Line name="Axle">
        <Choice label="Axle" value={end} options={ENDS} onChange={(next) => choose({ end: next })} />
      </Line>
      <Line name="Layout" why={LAYOUTS[layout][1]}>
        <Choice
          label="Layout"
          value={layout}
          options={optionsOf(LAYOUTS)}
          onChange={(next) => choose({ layout: next })}
        />
      </Line>
      {!props.knowsUse && (
        <Line name="Built for">
          <Choice
            label="Built for"
            value={use}
            options={uses.map((u) => [u.id, u.name] as const)}
            onChange={(next) => choose({ use: next })}
          />
        </Line>
      )}
      <Line name="School" why={schools.find((s) => s.id === school)?.buys ?? ""}>
        <Choice
          label="School"
          value={school}
          options={schools.map((s) => [s.id, s.name] as const)}
          onChange={(next) => choose({ school: next })}
        />
      </Line>
    </>
  );
}

function Line({ name, why, children }: { name: string; why?: string; children: ReactNode }) {
  return (
    <div className="row">
      <span>{name}</span>
      <div>{children}</div>
      {why && <span className="quiet">{why}</span>}
    </div>
  );
}

const optionsOf = <K extends string>(table: Record<K, [string, string]>): [K, string][] =>
  (Object.entries(table) as [K, [string, string]][]).map(([key, [name]]) => [key, name]);

function measured(
  text: string | undefined,
  standard: number,
  units: Units,
): { mm: number; why: string | null } {
  if (text === undefined) return { mm: standard, why: null };
  const typed = readLength(text, units);
  if (typeof typed === "string") return { mm: 0, why: typed };
  return typed > 0 ? { mm: typed, why: null } : { mm: 0, why: "Type a length more than nothing." };
}

/** What to turn for a pinion that was read on its weight: by how much, which way, and what it takes of the links. */

import { useState } from "react";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { capital } from "../../document/parts";
import type { Stood } from "../../state/stood";
import { Button, Trouble } from "../../ui/controls";
import { length, plain, type Units } from "../../units/tape";

type How = Schemas["TurnIn"]["how"];
interface Answer {
  how: How;
  turned: Schemas["TurnOut"]["turned"];
}

export function ToTurn(props: {
  document: Document;
  reading: Extract<Stood, { kind: "pinion" }>;
  /** Where the axle stood when it was read, mm. */
  travel: number;
  units: Units;
}) {
  const { document, reading, travel, units } = props;
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  if (!document.driveshaft) return null;
  const { value, zero, face, points } = reading;
  const ask = async (how: How) => {
    const asked = { document, value, zero, face, points, travel, how, frame_pitch: 0, soft: SOFT_DEG };
    const told = await server.turnPinion(asked).catch(() => null);
    setAnswer(told?.data ? { how, turned: told.data.turned } : null);
    setWhy(told?.data ? null : told ? reasonOf(told.error) : NO_SERVER);
  };
  return (
    <>
      <div style={{ display: "flex", gap: "0.375rem", flexWrap: "wrap" }}>
        <Button onPress={() => void ask("brackets")}>What to turn, housing in its brackets</Button>
        <Button onPress={() => void ask("links")}>What to turn, by the links</Button>
      </div>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {answer && <Told {...answer} units={units} />}
    </>
  );
}

/** How far under its setting a pinion is set for mounts that give, where nobody says otherwise. */
const SOFT_DEG = 1.5;

function Told({ how, turned, units }: Answer & { units: Units }) {
  const { turn, way, read, after, soft, lengths } = turned;
  if (Math.abs(turn) < 0.05) return <p role="status">Nothing to turn: it is at its setting.</p>;
  return (
    <div role="status">
      <p>
        <strong>
          {how === "links" ? "With its brackets, by the links" : "In its brackets"}: {plain(Math.abs(turn), 1)}°, {way}.
        </strong>{" "}
        Brought to ride it reads {plain(read, 1)}° nose up, then {plain(after.pinion, 1)}°, the frame level. {soft}
      </p>
      {lengths.length > 0 && (
        <ul style={{ margin: 0, paddingLeft: 18 }}>
          {lengths.map(({ part, words, by, turns }) => (
            <li key={part}>
              {capital(words)}: {length(Math.abs(by), units)} {by > 0 ? "longer" : "shorter"}
              {turns === null ? " (the pitch of its ends is not known)" : `, ${plain(Math.abs(turns), 1)} turns`}
            </li>
          ))}
        </ul>
      )}
    </div>
  ); // prettier-ignore
}

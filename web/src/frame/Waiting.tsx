/** What is held on this device until the server has it: how much, since when, and what somebody has to decide about. */

import styled from "styled-components";

import { reasonOf } from "../api/client";
import { Button } from "../ui/controls";
import { drop, isMine, type Operation, useOutbox } from "../state/outbox";

const Strip = styled.section`
  position: fixed;
  left: 50%;
  bottom: 3rem; /* over the line of cautions, which is never covered */
  transform: translateX(-50%);
  z-index: 30;
  width: max-content;
  max-width: calc(100vw - 1rem);
  display: grid;
  gap: 0.25rem;
  padding: 0.375rem 0.75rem;
  background: var(--sheet);
  border: 1px solid var(--stop);
  border-radius: 4px;
  font-size: 0.875rem;
  p,
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem 0.75rem;
    align-items: center;
  }
  b {
    color: var(--stop);
    font-weight: 600;
  }
`;

const clock = (at: number) => new Date(at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" });
const counted = (count: number) => (count === 1 ? "1 change waits" : `${count} changes wait`);

/** Nothing while everything is stored; where the open page says of its own edit what becomes of it, that is not said twice. */
export function Waiting() {
  const { waiting, why, lasting } = useOutbox();
  const wait = waiting.filter((one) => !one.refused);
  const left = waiting.filter((one) => one.refused && !isMine(one));
  if ((wait.length === 0 || why === null) && left.length === 0) return null;
  return (
    <Strip aria-label="Held on this device">
      {wait.length > 0 && why !== null && (
        <p role="status" data-testid="waiting">
          <b>
            {counted(wait.length)} for the server since {clock(Math.min(...wait.map((one) => one.at)))}.
          </b>
          {lasting
            ? "Held on this device, also when the page is closed; sent when the server is back."
            : "This browser keeps nothing for us: leave this page open until the server is back."}
        </p>
      )}
      {left.length > 0 && (
        <ul>
          {left.map((one) => (
            <Left key={one.order} one={one} />
          ))}
        </ul>
      )}
    </Strip>
  );
}

/** Of a page that was closed: the server refused it, and nobody has decided yet. */
function Left({ one }: { one: Operation }) {
  const design = /^design (\d+)$/.exec(one.queue)?.[1];
  return (
    <li>
      <b>Not stored: {one.words}.</b> {reasonOf(one.refused?.error)}
      {one.kind === "design" && design !== undefined && (
        <a href={`/designs/${design}/links`}>Open it and choose</a>
      )}
      <Button onPress={() => void drop({ id: one.id })}>Let go of it</Button>
    </li>
  );
}

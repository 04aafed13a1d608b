/** Stripping and rerouting: what must move or be held, how many and where, each before which step. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { NO_SERVER, reasonOf, server } from "../../api/client";
import { theRegister } from "../../api/register";
import { useDraft } from "../../state/drafts";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Choice, Toggle, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { byStep, type Job, withJobs } from "./jobs";
import { Form } from "./ReadingForm";

const List = styled.ul`
  list-style: none;
  margin: 0 0 0.5rem;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 0.5rem;
    align-items: center;
    border-bottom: 1px solid var(--hair);
    padding: 3px 0;
  }
  li[data-done="true"] .what {
    color: var(--quiet);
    text-decoration: line-through;
  }
`;

export function Jobs({ truck, units }: { truck: TruckDocument; units: Units }) {
  const edit = useTruck((s) => s.edit);
  const { jobs } = truck;
  const put = (next: Job[]) => void edit({ ...truck, jobs: next });
  const left = jobs.filter((job) => !job.done).length;
  return (
    <section aria-label="Stripping and rerouting">
      <h2>Stripping and rerouting</h2>
      {jobs.length === 0 ? (
        <p className="quiet">
          Nothing is listed yet: what holds the truck when an axle is out, what falls when a bolt is pulled,
          which lines must move. <Typical truck={truck} units={units} />
        </p>
      ) : (
        <p className="quiet">{left === 0 ? "All of it is done." : `${left} of ${jobs.length} to be done.`}</p>
      )}
      {byStep(jobs).map(([step, ones]) => (
        <div key={step}>
          <h3>Before: {step || "no step said"}</h3>
          <List aria-label={`Before ${step || "no step said"}`}>
            {ones.map((job) => (
              <Line
                key={job.id}
                job={job}
                onDone={(done) => put(jobs.map((one) => (one.id === job.id ? { ...one, done } : one)))}
                onDelete={() => put(jobs.filter((one) => one.id !== job.id))}
              />
            ))}
          </List>
        </div>
      ))}
      <JobForm truck={truck} />
    </section>
  );
}

/** The jobs that a strip-down of this truck mostly has, put on the list to be gone through. */
function Typical({ truck, units }: { truck: TruckDocument; units: Units }) {
  const edit = useTruck((s) => s.edit);
  const [why, setWhy] = useState<string | null>(null);
  const start = async () => {
    try {
      const { data, error } = await server.typicalJobs({ truck, units });
      if (data) await edit({ ...truck, jobs: data });
      else setWhy(reasonOf(error));
    } catch {
      setWhy(NO_SERVER);
    }
  };
  return (
    <>
      <Button onPress={() => void start()}>Start from what is typical</Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </>
  );
}

function Line(props: { job: Job; onDone: (done: boolean) => void; onDelete: () => void }) {
  const { job, onDone, onDelete } = props;
  return (
    <li data-done={job.done}>
      <Toggle
        aria-label={`${job.done ? "Done" : "To do"}: ${job.what}`}
        isSelected={job.done}
        onChange={onDone}
      >
        {job.done ? "Done" : "To do"}
      </Toggle>
      <span className="what">
        {job.count > 1 && `${job.count} × `}
        {job.what}
        {job.where !== "" && <span className="quiet">, {job.where}</span>}
      </span>
      <Button aria-label={`Delete ${job.what}`} onPress={onDelete}>
        Delete
      </Button>
    </li>
  );
}

const NOTHING = { what: "", where: "", count: "1" };
const FIELDS = [
  ["what", "What must move or be held"],
  ["where", "Where"],
  ["count", "How many"],
] as const;

function JobForm({ truck }: { truck: TruckDocument }) {
  const edit = useTruck((s) => s.edit);
  const [texts, setTexts] = useDraft("job", NOTHING);
  const [before, setBefore] = useState("Stripping");
  const [why, setWhy] = useState<string | null>(null);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const count = Number(texts.count);
    if (texts.what.trim() === "") setWhy("Say what must move or be held.");
    else if (!Number.isInteger(count) || count < 1 || count > 1000)
      setWhy("How many: a whole number, 1 or more.");
    else {
      const job = { what: texts.what.trim(), where: texts.where.trim(), count, before, done: false };
      if (await edit(withJobs(truck, [job]))) setTexts(NOTHING);
    }
  };
  return (
    <Form onSubmit={(event) => void submit(event)} aria-label="Add what must move">
      {FIELDS.map(([key, name]) => (
        <label key={key}>
          {name}
          <input
            value={texts[key]}
            autoComplete="off"
            data-job={key}
            onChange={(event) => {
              setWhy(null);
              setTexts({ ...texts, [key]: event.target.value });
            }}
          />
        </label>
      ))}
      <Choice
        label="Before which step"
        value={before}
        options={theRegister().job_steps.map((step) => [step, `Before: ${step.toLowerCase()}`] as const)}
        onChange={setBefore}
      />
      <Button type="submit">Add it</Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Form>
  );
}

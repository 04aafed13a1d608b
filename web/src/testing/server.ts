/** A server that answers as it is told, by method and address; what it was asked is kept. */

import { vi } from "vitest";

import { solvedTender } from "./solved";

export interface Reply {
  status: number;
  body: unknown;
}
export interface Asked {
  line: string;
  body: Record<string, unknown>;
}
type Answers = Record<string, (body: Record<string, unknown>) => Reply | "no server">;

/** Answers by "METHOD /path"; the cycle is that of the worked-out tender unless told otherwise. */
export function serve(answers: Answers): Asked[] {
  const asked: Asked[] = [];
  const clears = () => ok({ design: "", travel: [], articulation: [], pairs: [], findings: [] });
  const none = () => ok({ names: [], why: "No bench is set." });
  const whole = () => ok(solvedTender().answer);
  const known: Answers = {
    "POST /api/cycle": whole,
    "POST /api/look": whole,
    "POST /api/clear": clears,
    "GET /api/instruments": none,
    ...answers,
  };
  vi.stubGlobal("fetch", (url: string, request: { method: string; body: string | null }) => {
    const line = `${request.method} ${url}`;
    const body = request.body === null ? {} : (JSON.parse(request.body) as Record<string, unknown>);
    asked.push({ line, body });
    const reply = known[line]?.(body) ?? { status: 404, body: { message: `nothing at ${line}` } };
    if (reply === "no server") return Promise.reject(new TypeError("no server"));
    const text = reply.status === 204 ? null : JSON.stringify(reply.body);
    return Promise.resolve(new Response(text, { status: reply.status }));
  });
  return asked;
}

export const ok = (body: unknown): Reply => ({ status: 200, body });
export const refused = (message: string, faults: unknown[] = []): Reply => ({
  status: 422,
  body: { message, faults },
});

/** The last that was asked of an address: others may have been asked after it. */
export function lastOf(asked: readonly Asked[], line: string): Record<string, unknown> {
  const found = asked.findLast((one) => one.line === line);
  if (!found) throw new Error(`${line} was not asked; only ${asked.map((one) => one.line).join(", ")}`);
  return found.body;
}

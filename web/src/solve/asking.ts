/** Questions to the core that take a moment: the newest wins, and what is asked while one is under way waits its turn. */

import { useEffect, useRef, useState } from "react";

import { type Answer, NO_SERVER, reasonOf } from "../api/client";
import { latest } from "./latest";

const RETRY_MS = 1500;

export interface Asked<T> {
  state: "asking" | "answered" | "failed";
  data: T | null;
  why: string | null;
}

type Keyed<T> = Asked<T> & { key: string | null };

const NOTHING = { state: "asking", data: null, why: null, key: null } as const;

const said = <T>({ data, error }: Answer<T>, key: string): Keyed<T> =>
  error === undefined
    ? { state: "answered", data: data as T, why: null, key }
    : { state: "failed", data: null, why: reasonOf(error), key };

/**
 * Ask once the key has stood still for a moment; the last answer stays until the next one. Null: nothing to ask. What
 * nobody waits for any more is given up, here and in the server.
 */
export function useAsked<T>(
  key: string | null,
  ask: (signal: AbortSignal) => Promise<Answer<T>>,
  calm = 250,
): Keyed<T> {
  const [asked, setAsked] = useState<Keyed<T>>(NOTHING);
  const newest = useRef(ask);
  useEffect(() => {
    newest.current = ask;
  });
  useEffect(() => {
    if (key === null) return;
    let stale = false;
    const given = new AbortController();
    const ask = () => {
      newest
        .current(given.signal)
        .then((answer) => {
          if (!stale) setAsked(said(answer, key));
        })
        .catch(() => {
          if (stale) return;
          setAsked({ state: "failed", data: null, why: NO_SERVER, key });
          timer = setTimeout(ask, RETRY_MS); // it is asked again until the server is back
        });
    };
    let timer = setTimeout(ask, calm);
    return () => {
      stale = true;
      clearTimeout(timer);
      given.abort();
    };
  }, [key, calm]);
  return asked;
}

/**
 * Ask while a hand goes on: one question at a time, the newest next; each answer is shown as it comes, with its key.
 */
export function useFollowed<T>(key: string | null, ask: () => Promise<Answer<T>>): Keyed<T> {
  const [asked, setAsked] = useState<Keyed<T>>(NOTHING);
  const newest = useRef({ key, ask });
  const line = useRef<ReturnType<typeof latest<Question<T>>> | null>(null);
  useEffect(() => {
    newest.current = { key, ask };
  });
  useEffect(() => {
    const own = latest(async (one: Question<T>) => {
      const next = await answered(one);
      if (line.current !== own) return; // the page was left
      setAsked(next);
      if (next.why === NO_SERVER)
        setTimeout(() => line.current === own && newest.current.key === one.key && own.put(one), RETRY_MS);
    });
    line.current = own;
    return () => {
      line.current = null;
      own.drop();
    };
  }, []);
  useEffect(() => {
    if (key !== null) line.current?.put({ key, ask: newest.current.ask });
  }, [key]);
  return asked;
}

interface Question<T> {
  key: string;
  ask: () => Promise<Answer<T>>;
}

const answered = async <T>({ key, ask }: Question<T>): Promise<Keyed<T>> => {
  try {
    return said(await ask(), key);
  } catch {
    return { state: "failed", data: null, why: NO_SERVER, key };
  }
};

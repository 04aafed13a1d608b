/** Questions to the core that take a moment: the newest wins, and what is asked while one is under way waits its turn. */

import { useEffect, useRef, useState } from "react";

import { type Answer, NO_SERVER, reasonOf } from "../api/client";

const RETRY_MS = 1500;

export interface Asked<T> {
  state: "asking" | "answered" | "failed";
  data: T | null;
  why: string | null;
}

/**
 * Ask once the key has stood still for a moment; the last answer stays until the next one. Null: nothing to ask. What
 * nobody waits for any more is given up, here and in the server.
 */
export function useAsked<T>(
  key: string | null,
  ask: (signal: AbortSignal) => Promise<Answer<T>>,
  calm = 250,
): Asked<T> & { key: string | null } {
  const [asked, setAsked] = useState<Asked<T> & { key: string | null }>({
    state: "asking",
    data: null,
    why: null,
    key: null,
  });
  const latest = useRef(ask);
  useEffect(() => {
    latest.current = ask;
  });
  useEffect(() => {
    if (key === null) return;
    let stale = false;
    const given = new AbortController();
    const ask = () => {
      latest
        .current(given.signal)
        .then(({ data, error }) => {
          if (stale) return;
          setAsked(
            error === undefined
              ? { state: "answered", data: data as T, why: null, key }
              : { state: "failed", data: null, why: reasonOf(error), key },
          );
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

/**
 * Work that goes on in the server for longer than one waits: begun, looked at until it is over, ended. Its number is
 * kept with this tab, so that it is found again when the page was loaded anew.
 */

import { useCallback, useEffect, useState } from "react";

import { type LongPath, NO_SERVER, reasonOf, server, type WorkSoFar } from "../api/client";

const LOOK_MS = 300;
const RETRY_MS = 1500;

export interface Work<T> {
  /** What it was begun for: to be compared with what stands on screen now. */
  of: string | null;
  soFar: WorkSoFar<T> | null;
  trouble: string | null;
  begin: (of: string, body: unknown) => void;
  end: () => void;
}

interface Begun {
  number: string;
  of: string;
}

const kept = (place: string): Begun | null =>
  JSON.parse(sessionStorage.getItem(place) ?? "null") as Begun | null;

const isOver = (state: string) => state !== "waiting" && state !== "going";

/** Looks at what was begun until it is over. */
function useLooking<T>(
  path: LongPath,
  begun: Begun | null,
  forget: (next: null) => void,
  show: (soFar: WorkSoFar<T>) => void,
  say: (trouble: string | null) => void,
) {
  useEffect(() => {
    if (!begun) return;
    let left = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const again = (ms: number) => {
      timer = setTimeout(() => void look(), ms);
    };
    const look = async () => {
      try {
        const { data, status, error } = await server.lookAtWork<T>(path, begun.number);
        if (left) return;
        if (status === 404) {
          forget(null);
          return;
        }
        if (data) show(data);
        const bad = data?.state === "refused" || data?.state === "failed";
        say(data ? (bad ? data.message : null) : reasonOf(error));
        if (!data || !isOver(data.state)) again(LOOK_MS);
      } catch {
        if (left) return;
        say(NO_SERVER);
        again(RETRY_MS);
      }
    };
    void look();
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [begun, path, forget, show, say]);
}

/** Long work of one kind, about one design. */
export function useWork<T>(path: LongPath, design: number): Work<T> {
  const place = `work ${path} ${design}`;
  const [begun, setBegun] = useState<Begun | null>(() => kept(place));
  const [soFar, setSoFar] = useState<WorkSoFar<T> | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const keep = useCallback(
    (next: Begun | null) => {
      if (next) sessionStorage.setItem(place, JSON.stringify(next));
      else sessionStorage.removeItem(place);
      setBegun(next);
      setSoFar(null);
    },
    [place],
  );
  useLooking(path, begun, keep, setSoFar, setTrouble);
  const end = useCallback(() => {
    if (begun) void server.endWork(path, begun.number).catch(() => null);
    keep(null);
  }, [begun, path, keep]);
  const begin = useCallback(
    (of: string, body: unknown) => {
      setTrouble(null);
      if (begun) void server.endWork(path, begun.number).catch(() => null);
      server.beginWork(path, design, body).then(
        ({ data, error }) => {
          if (data) keep({ number: data.number, of });
          else setTrouble(reasonOf(error));
        },
        () => {
          setTrouble(NO_SERVER);
        },
      );
    },
    [begun, path, design, keep],
  );
  return { of: begun?.of ?? null, soFar, trouble, begin, end };
}

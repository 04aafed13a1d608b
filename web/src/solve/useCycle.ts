/** The cycle of the document on screen, as the server works it out: latest wins, one request under way. */

import { useEffect, useRef, useState } from "react";

import { type CycleAnswer, reasonOf, server } from "../api/client";
import type { Document } from "../design/document";

export interface Solved {
  answer: CycleAnswer;
  document: Document;
  travel: number;
  articulation: number;
}

export interface Solving {
  /** The last good answer; stays while newer ones are awaited or refused. */
  solved: Solved | null;
  /** Why the document on screen could not be worked out, if so. */
  refusal: string | null;
  lost: boolean;
}

interface Question {
  document: Document;
  travel: number;
  articulation: number;
}

const RETRY_MS = 1500;

export function useCycle(document: Document | null, travel: number, articulation: number): Solving {
  const [solving, setSolving] = useState<Solving>({ solved: null, refusal: null, lost: false });
  const wanted = useRef<Question | null>(null);
  const busy = useRef(false);
  const alive = useRef(true);

  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);

  useEffect(() => {
    if (!document) return;
    wanted.current = { document, travel, articulation };
    if (busy.current) return;
    const run = async () => {
      busy.current = true;
      while (wanted.current && alive.current) {
        const question: Question = wanted.current;
        wanted.current = null;
        try {
          const { data, error } = await server.cycle(question);
          performance.mark("cycle-answered");
          if (data) setSolving({ solved: { answer: data, ...question }, refusal: null, lost: false });
          else setSolving((last) => ({ ...last, refusal: reasonOf(error), lost: false }));
        } catch {
          setSolving((last) => ({ ...last, lost: true }));
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
          wanted.current ??= question;
        }
      }
      busy.current = false;
    };
    void run();
  }, [document, travel, articulation]);

  return solving;
}

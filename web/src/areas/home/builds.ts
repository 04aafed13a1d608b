/** The builds as the server has them, a page at a time; and what is done with them here. */

import { useCallback, useEffect, useRef, useState } from "react";

import { type Answer, type Build, NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { making } from "../../state/making";
import { isAsked, onOutbox } from "../../state/outbox";

export type Notice = Schemas["NoticeOut"];

interface Named {
  id: number;
  name: string;
}

/** A design’s line, or a build: what it is changed against. */
type Lined = Named & { revision: number };
type Numbered = Named & { number: number };

/** What was just deleted, and in which build. */
export interface Deleted extends Named {
  kind: "build" | "design";
  build: number;
}

const CALM_MS = 250;
const RETRY_MS = 1500;
const ENOUGH_TO_SEARCH = 8;

/** Ask, and say in words why nothing came. */
function useSaying() {
  const [trouble, setTrouble] = useState<string | null>(null);
  const ask = useCallback(async <T>(answer: Promise<Answer<T>>): Promise<Answer<T> | null> => {
    try {
      const said = await answer;
      setTrouble(said.error === undefined ? null : reasonOf(said.error));
      return said.error === undefined ? said : null;
    } catch {
      setTrouble(NO_SERVER);
      return null;
    }
  }, []);
  return { trouble, ask };
}

/** Pages of builds with these words in them, the newest first. */
function usePages(ask: ReturnType<typeof useSaying>["ask"]) {
  const [builds, setBuilds] = useState<Build[] | null>(null);
  const [notices, setNotices] = useState<Notice[]>([]);
  const [unreadable, setUnreadable] = useState<string[]>([]);
  const [before, setBefore] = useState<number | null>(null);
  const [many, setMany] = useState(false);
  const [lost, setLost] = useState(0);
  const [find, setFind] = useState("");
  const wanted = useRef("");
  const fetchPage = useCallback(
    async (words: string, from: number | null) => {
      const said = await ask(server.builds({ find: words, before: from }));
      if (wanted.current !== words) return; // other words have been typed meanwhile
      if (!said?.data) {
        setLost((times) => times + 1); // asked again until the server is there
        return;
      }
      const page = said.data;
      setBuilds((shown) => (from === null ? page.builds : [...(shown ?? []), ...page.builds]));
      setBefore(page.before);
      setMany((were) => were || page.before !== null || page.builds.length >= ENOUGH_TO_SEARCH);
      setNotices(page.notices);
      setUnreadable((before) => (from === null ? page.unreadable : [...before, ...page.unreadable]));
    },
    [ask],
  );
  useEffect(() => {
    wanted.current = find;
    const timer = setTimeout(() => void fetchPage(find, null), find === "" ? 0 : CALM_MS);
    return () => clearTimeout(timer);
  }, [find, fetchPage]);
  useEffect(() => {
    if (lost === 0) return;
    const timer = setTimeout(() => void fetchPage(wanted.current, null), RETRY_MS);
    return () => clearTimeout(timer);
  }, [lost, fetchPage]);
  const more = before === null ? null : () => fetchPage(find, before);
  return {
    builds,
    setBuilds,
    many,
    notices,
    setNotices,
    unreadable,
    find,
    look: setFind,
    more,
    load: () => fetchPage(find, null),
  };
}

/** What had to wait is stored: the list is another. */
function useStoredLater(load: () => Promise<void>) {
  const latest = useRef(load);
  useEffect(() => void (latest.current = load));
  useEffect(
    () =>
      onOutbox((heard) => {
        const stored = heard.what === "answered" && heard.outcome.error === undefined;
        if (stored && !isAsked(heard.operation)) void latest.current();
      }),
    [],
  );
}

export function useBuilds() {
  const { trouble, ask } = useSaying();
  const { setBuilds, setNotices, load, ...pages } = usePages(ask);
  const [deleted, setDeleted] = useState<Deleted | null>(null);
  const replace = (fresh: Build) => setBuilds((shown) => shown?.map((one) => (one.id === fresh.id ? fresh : one)) ?? null); // prettier-ignore
  const refresh = async (id: number) => {
    const said = await ask(server.build(id));
    if (said?.data) replace(said.data);
  };
  /** How a build stands now, whatever was said of it before. */
  const again = async (id: number) => {
    const { data } = await server.build(id).catch(() => ({ data: undefined }));
    if (data) replace(data);
  };
  useStoredLater(load);
  return {
    ...pages,
    trouble,
    deleted,
    refresh,
    load: async () => {
      setDeleted(null);
      await load();
    },
    /** A build that was just made stands first. */
    add: (build: Build) => setBuilds((shown) => [build, ...(shown ?? [])]),
    rename: async (design: Lined, name: string, build: number): Promise<boolean> => {
      const stored = await ask(making.renameDesign({ ...design, base: design.revision }, name));
      await refresh(build);
      return stored !== null;
    },
    remove: async (design: Lined, build: number) => {
      if (await ask(making.deleteDesign({ ...design, base: design.revision })))
        setDeleted({ kind: "design", id: design.id, name: design.name, build });
      await refresh(build);
    },
    renameBuild: async (build: Numbered, name: string, notes: string): Promise<boolean> => {
      const said = await ask(making.renameBuild({ ...build, base: build.number }, { name, notes }));
      if (said?.data) replace(said.data);
      else await again(build.id);
      return said !== null;
    },
    removeBuild: async (build: Numbered) => {
      const { id, name } = build;
      if (await ask(making.deleteBuild({ ...build, base: build.number })))
        setDeleted({ kind: "build", id, name, build: id });
      else await again(id);
    },
    restore: async () => {
      if (!deleted) return;
      const { kind, id, name, build } = deleted;
      const back =
        kind === "build" ? ask(making.restoreBuild(id, name)) : ask(making.restoreDesign(id, name));
      if (!(await back)) return;
      setDeleted(null);
      await refresh(build);
    },
    putAway: async (notice: number) => {
      if (await ask(server.putAway(notice))) setNotices((shown) => shown.filter((one) => one.id !== notice));
    },
  };
}

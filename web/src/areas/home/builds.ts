/** The builds as the server has them, a page at a time; and what is done with them here. */

import { useCallback, useEffect, useRef, useState } from "react";

import { type Answer, type Build, NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";

export type Notice = Schemas["NoticeOut"];

export interface Removed {
  id: number;
  name: string;
}

const CALM_MS = 250;
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
  const [before, setBefore] = useState<number | null>(null);
  const [many, setMany] = useState(false);
  const [find, setFind] = useState("");
  const wanted = useRef("");
  const fetchPage = useCallback(
    async (words: string, from: number | null) => {
      const said = await ask(server.builds({ find: words, before: from }));
      if (!said?.data || wanted.current !== words) return; // other words have been typed meanwhile
      const page = said.data;
      setBuilds((shown) => (from === null ? page.builds : [...(shown ?? []), ...page.builds]));
      setBefore(page.before);
      setMany((were) => were || page.before !== null || page.builds.length >= ENOUGH_TO_SEARCH);
      setNotices(page.notices);
    },
    [ask],
  );
  useEffect(() => {
    wanted.current = find;
    const timer = setTimeout(() => void fetchPage(find, null), find === "" ? 0 : CALM_MS);
    return () => clearTimeout(timer);
  }, [find, fetchPage]);
  const more = before === null ? null : () => fetchPage(find, before);
  return {
    builds,
    setBuilds,
    many,
    notices,
    setNotices,
    find,
    look: setFind,
    more,
    load: () => fetchPage(find, null),
  };
}

export function useBuilds() {
  const { trouble, ask } = useSaying();
  const { setBuilds, setNotices, ...pages } = usePages(ask);
  const [deleted, setDeleted] = useState<(Removed & { build: number }) | null>(null);
  const refresh = async (id: number) => {
    const said = await ask(server.build(id));
    const fresh = said?.data;
    if (fresh) setBuilds((shown) => shown?.map((build) => (build.id === id ? fresh : build)) ?? null);
  };
  return {
    ...pages,
    trouble,
    deleted,
    refresh,
    /** A build that was just made stands first. */
    add: (build: Build) => setBuilds((shown) => [build, ...(shown ?? [])]),
    remove: async (design: Removed, build: number) => {
      if (!(await ask(server.deleteDesign(design.id)))) return;
      setDeleted({ ...design, build });
      await refresh(build);
    },
    restore: async () => {
      if (!deleted || !(await ask(server.restoreDesign(deleted.id)))) return;
      setDeleted(null);
      await refresh(deleted.build);
    },
    putAway: async (notice: number) => {
      if (await ask(server.putAway(notice))) setNotices((shown) => shown.filter((one) => one.id !== notice));
    },
  };
}

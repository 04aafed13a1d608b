/** The builds as the server has them, a page at a time; and what is done with them here. */

import { useCallback, useEffect, useRef, useState } from "react";

import { type Answer, type Build, NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";

export type Notice = Schemas["NoticeOut"];

interface Named {
  id: number;
  name: string;
}

/** What was just deleted, and in which build. */
export interface Deleted extends Named {
  kind: "build" | "design";
  build: number;
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
  const { setBuilds, setNotices, load, ...pages } = usePages(ask);
  const [deleted, setDeleted] = useState<Deleted | null>(null);
  const replace = (fresh: Build) =>
    setBuilds((shown) => shown?.map((build) => (build.id === fresh.id ? fresh : build)) ?? null);
  const refresh = async (id: number) => {
    const said = await ask(server.build(id));
    if (said?.data) replace(said.data);
  };
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
    rename: async (design: number, name: string, build: number): Promise<boolean> => {
      const head = await ask(server.design(design));
      if (!head?.data) return false;
      const { number: base, truck, document } = head.data;
      const stored = await ask(server.saveRevision(design, { base, truck, document: { ...document, name } }));
      await refresh(build);
      return stored !== null;
    },
    remove: async (design: Named, build: number) => {
      if (!(await ask(server.deleteDesign(design.id)))) return;
      setDeleted({ kind: "design", id: design.id, name: design.name, build });
      await refresh(build);
    },
    renameBuild: async (id: number, name: string, notes: string): Promise<boolean> => {
      const said = await ask(server.renameBuild(id, { name, notes }));
      if (said?.data) replace(said.data);
      return said !== null;
    },
    removeBuild: async ({ id, name }: Named) => {
      if (await ask(server.deleteBuild(id))) setDeleted({ kind: "build", id, name, build: id });
    },
    restore: async () => {
      if (!deleted) return;
      const { kind, id, build } = deleted;
      const back = kind === "build" ? ask(server.restoreBuild(id)) : ask(server.restoreDesign(id));
      if (!(await back)) return;
      setDeleted(null);
      await refresh(build);
    },
    putAway: async (notice: number) => {
      if (await ask(server.putAway(notice))) setNotices((shown) => shown.filter((one) => one.id !== notice));
    },
  };
}

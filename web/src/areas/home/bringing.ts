/** Bringing a file in: refused with its faults, or asked about where its truck's figures are not the build's. */

import { useState } from "react";

import { type Build, reasonOf, type Schemas } from "../../api/client";
import { making } from "../../state/making";

const MOST_BYTES = 1_500_000;
const TOO_LARGE = "it is larger than any design file: a few kilobytes is usual.";

interface Differing {
  file: string;
  text: string;
  differences: Schemas["Difference"][];
}

export function useBringing(build: Build, onChanged: () => Promise<void>) {
  const [refused, setRefused] = useState<{ file: string; faults: string[] } | null>(null);
  const [differs, setDiffers] = useState<Differing | null>(null);
  const send = async (file: string, text: string, take: string[] | null) => {
    const answer = await making.importDesign(build.id, { text, take }, file);
    const asks = answer.status === 409;
    setDiffers(asks ? { file, text, ...(answer.error as Pick<Differing, "differences">) } : null);
    setRefused(answer.data || asks ? null : { file, faults: faultsOf(answer.error) });
    await onChanged();
  };
  return {
    refused,
    differs,
    bring: async (file: File | undefined) => {
      if (!file) return;
      if (file.size > MOST_BYTES) setRefused({ file: file.name, faults: [TOO_LARGE] });
      else await send(file.name, await file.text(), null);
    },
    choose: (take: string[]) => void (differs && send(differs.file, differs.text, take)),
    leave: () => setDiffers(null),
  };
}

function faultsOf(error: unknown): string[] {
  const faults = (error as { faults?: { path: string; message: string }[] }).faults;
  return (
    faults?.map((fault) => (fault.path ? `${fault.path}: ${fault.message}` : fault.message)) ?? [
      reasonOf(error),
    ]
  );
}

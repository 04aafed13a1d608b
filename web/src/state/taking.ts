/** The open design as the core changes it: asked for, and taken as an edit. */

import { type Answer, NO_SERVER, reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { useDesign } from "./design";

type Ask = (document: Document) => Promise<Answer<{ document: Document }>>;

/** Take what the core makes of the open design, asked anew where that was edited meanwhile; why not, if not. */
export async function takeMade(ask: Ask): Promise<string | null> {
  const { document } = useDesign.getState();
  if (!document) return null;
  try {
    const { data, error } = await ask(document);
    if (!data) return reasonOf(error);
    if (useDesign.getState().document !== document) return await takeMade(ask);
    useDesign.getState().edit(data.document);
    return null;
  } catch {
    return NO_SERVER;
  }
}

/** Something that can be added to a design, by its id in the register, put into the open one. */
export const takeAddition = (what: string) => takeMade((document) => server.add({ document, what }));

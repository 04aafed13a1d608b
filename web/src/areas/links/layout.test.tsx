import { act } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { useDesign } from "../../state/design";
import { useTruck } from "../../state/truck";
import { clear, find, press, said, settle, shown } from "../../testing/screen";
import { ok, refused, serve } from "../../testing/server";
import { tender } from "../../testing/solved";
import { LayoutPane } from "./LayoutPane";

const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const three = { ...tender, links: tender.links.slice(1) };

beforeEach(() => {
  useTruck.setState({ truck: null, since: null, trouble: null });
  useDesign.setState({
    stored: revision, document: tender, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  }); // prettier-ignore
});
afterEach(() => {
  clear();
  vi.unstubAllGlobals();
});

const opened = async () => {
  const close = vi.fn();
  await shown(<LayoutPane document={tender} units="in16" onClose={close} />);
  return close;
};
const stores = { "POST /api/designs/7/revisions": () => ok({ ...revision, number: 5, document: three }) };

describe("the layout", () => {
  it("lists the links, and leaves one out by one press, to be undone", async () => {
    const asked = serve({ ...stores, "POST /api/layout": () => ok({ document: three }) });
    await opened();
    for (const link of tender.links) find(`[aria-label="Leave out ${link.id.replace("-", " ")}"]`);
    await press("Leave out lower left");
    await settle();
    const layout = asked.find(({ line }) => line === "POST /api/layout")!;
    expect(layout.body["change"]).toEqual({ do: "leave_out", link: "lower-left" });
    expect(useDesign.getState().document!.links).toHaveLength(3);
    act(() => useDesign.getState().undo());
    expect(useDesign.getState().document!.links).toHaveLength(4);
  });

  it("says what is refused, and changes nothing", async () => {
    serve({ "POST /api/layout": () => refused("a shock stands on it") });
    await opened();
    await press("Leave out lower left");
    await settle();
    expect(said()).toContain("Not changed: a shock stands on it");
    expect(useDesign.getState().document).toBe(tender);
  });

  it("says so where no server answers", async () => {
    serve({ "POST /api/layout": () => "no server" });
    await opened();
    await press("Leave out lower left");
    await settle();
    expect(said()).toContain("The server does not answer");
  });

  it("asks anew where the design was edited while it was worked out", async () => {
    let times = 0;
    const other = { ...tender, notes: "edited" };
    const asked = serve({
      ...stores,
      "POST /api/layout": (body) => {
        times += 1;
        if (times === 1) useDesign.setState({ document: other });
        return ok({ document: { ...(body["document"] as typeof tender), links: three.links } });
      },
    });
    await opened();
    await press("Leave out lower left");
    await settle();
    expect(asked.filter(({ line }) => line === "POST /api/layout")).toHaveLength(2);
    expect(useDesign.getState().document!.notes).toBe("edited");
    expect(useDesign.getState().document!.links).toHaveLength(3);
  });

  it("goes back to the mounts", async () => {
    const close = await opened();
    await press("Back to the mounts");
    expect(close).toHaveBeenCalled();
  });
});

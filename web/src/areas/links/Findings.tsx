/** The findings in order of severity; and the one move that answers them all. */

import { memo, useCallback, useEffect, useState } from "react";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { type Document, spotsOf, placed } from "../../document/document";
import { useDesign } from "../../state/design";
import { Button, Trouble } from "../../ui/controls";
import { increment, length } from "../../units/tape";
import { usePreferences } from "../../state/preferences";
import { dropPreview, preview, takePreview } from "../../state/behind";
import { pressing, useSelection } from "../../state/selection";
import { FindingList } from "../../panels/FindingList";
import type { PaneProps } from "../../panels/FindingPane";
import { nameOf } from "../../figures/readings";

export function Findings(props: PaneProps) {
  const { solved, units } = props;
  if (!solved) return <p className="quiet">Working it out…</p>;
  const found = pressing(solved.answer.findings);
  const good = solved.answer.findings.filter((f) => f.severity === "good" && f.verdict === "inside").length;
  return (
    <>
      {found.length === 0 ? (
        <p>Nothing to stop for, to fix or to consider: {good} figures are inside their bands.</p>
      ) : (
        <FindingList findings={found} units={units} />
      )}
      {found.length > 0 && good > 0 && <p className="quiet">{good} other figures are inside their bands.</p>}
      <Settle {...props} empty={found.length === 0} />
    </>
  );
}

type Sought = Schemas["Settled"] | "asking" | "none" | { why: string };

/** All at once: every free mount a little, until as much as can be is inside its band. What was found holds for the
 * document it was found for. */
function Settle({ document, solved, units, empty }: PaneProps & { empty: boolean }) {
  const [sought, setSought] = useState<{ document: Document; found: Sought } | null>(null);
  const found = sought?.document === document ? sought.found : null;
  useEffect(() => dropPreview, [document]);
  const ask = useCallback(async () => {
    const { document: asked } = useDesign.getState();
    if (!asked) return;
    const say = (answer: Sought) => setSought({ document: asked, found: answer });
    say("asking");
    try {
      const step = increment(usePreferences.getState().units, "shop");
      const { data, error } = await server.settle({ document: asked, increment: step });
      say(error === undefined ? (data ?? "none") : { why: reasonOf(error) });
      if (data && useDesign.getState().document === asked)
        preview("several mounts moved a little", placed(asked, data.at));
    } catch {
      say({ why: NO_SERVER });
    }
  }, []);
  const drop = useCallback(() => {
    dropPreview();
    setSought(null);
  }, []);
  if (found === null || found === "asking")
    return <Offers asking={found === "asking"} empty={empty} onAsk={ask} />;
  if (found === "none")
    return (
      <p role="status">
        No movement of the mounts that are free makes it better. Unlock some, or cure one finding alone.
      </p>
    );
  if ("why" in found) return <Trouble role="alert">{found.why}</Trouble>;
  const title = (id: string) =>
    solved?.answer.findings.find((f) => f.id === id)?.title.toLowerCase() ?? nameOf(id);
  return (
    <div role="status">
      <p>
        {Object.keys(found.at).length} mounts move, none by more than{" "}
        {length(farthest(document, found.at), units)}. Better: {found.cures.map(title).join(", ")}.
        {found.worse.length > 0 && ` Worse: ${found.worse.map(title).join(", ")}.`}
        {found.weak.length > 0 && ` Then wants stronger steel: ${found.weak.join("; ")}.`}
      </p>
      <div className="line">
        <Button
          className="main"
          onPress={() => {
            preview("several mounts moved a little", placed(document, found.at));
            takePreview();
          }}
        >
          Take it
        </Button>
        <Button onPress={drop}>Drop it</Button>
      </div>
    </div>
  );
}

const Offers = memo(function Offers(props: { asking: boolean; empty: boolean; onAsk: () => Promise<void> }) {
  const converge = useSelection((s) => s.converge);
  return (
    <div className="line">
      {!props.empty && (
        <Button isDisabled={props.asking} onPress={() => void props.onAsk()}>
          {props.asking ? "Looking for it…" : "Move several a little"}
        </Button>
      )}
      <Button onPress={() => converge(true)}>Converge on a point</Button>
    </div>
  );
});

/** The longest way any mount goes along an axis, mm. */
function farthest(document: Document, at: Record<string, readonly number[]>): number {
  const ways = spotsOf(document).flatMap((m) => (at[m.name] ?? m.at).map((v, i) => Math.abs(v - m.at[i]!)));
  return Math.max(0, ...ways);
}

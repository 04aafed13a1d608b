/** The fit-up on paper: designed values, tolerances and blanks, and what is known already. */

import { useDesign } from "../../state/design";
import { today } from "../../state/orders";
import { useTruck } from "../../state/truck";
import { Button } from "../../ui/controls";
import type { Units } from "../../units/tape";

export function OnPaper({ units }: { units: Units }) {
  const design = useDesign((s) => s.stored?.design);
  const stored = useDesign((s) => s.sync.state === "stored");
  const truck = useTruck((s) => s.truck !== null);
  const papers = units === "mm" ? (["a4", "letter"] as const) : (["letter", "a4"] as const);
  const open = (paper: string) =>
    window.open(
      `/api/designs/${design}/fit-up.pdf?units=${units}&paper=${paper}&today=${today()}`,
      "_blank",
      "noopener",
    );
  return (
    <div style={{ display: "flex", gap: "0.375rem", flexWrap: "wrap", margin: "0.5rem 0" }}>
      {papers.map((paper) => (
        <Button key={paper} isDisabled={!stored || !truck} onPress={() => open(paper)}>
          {`Fit-up sheet, ${paper === "a4" ? "A4" : "Letter"}`}
        </Button>
      ))}
    </div>
  );
}

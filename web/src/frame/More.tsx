/** What is rarely used: units, theme, the files of the open design. */

import { memo } from "react";

import { usePreferences } from "../state/preferences";
import { UNIT_NAMES, type Units } from "../units/tape";
import { MenuOf, type Section } from "../ui/menu";

const PAPERS = { a3: "A3", a4: "A4", "11x17": "11x17", letter: "Letter" };
const BY_UNITS: Record<"mm" | "inch", (keyof typeof PAPERS)[]> = {
  mm: ["a3", "a4", "11x17", "letter"],
  inch: ["11x17", "letter", "a3", "a4"],
};

/** The shop drawing, on the papers that are at hand where these units are; and what else is kept as a file. */
const filesOf = (units: Units): Section[] => [
  {
    name: "Shop drawing",
    lines: BY_UNITS[units === "mm" ? "mm" : "inch"].flatMap((paper) =>
      (["pdf", "svg"] as const).map(
        (kind) =>
          [
            `sheet.${kind}?units=${units}&paper=${paper}`,
            `Shop drawing, ${PAPERS[paper]}, ${kind.toUpperCase()}`,
          ] as const,
      ),
    ),
  },
  {
    name: "For whoever signs",
    lines: BY_UNITS[units === "mm" ? "mm" : "inch"]
      .filter((paper) => paper === "a4" || paper === "letter")
      .map((paper) => [
        `engineer.pdf?units=${units}&paper=${paper}`,
        `Engineer’s sheet, ${PAPERS[paper]}, PDF`,
      ]),
  },
  {
    name: "Other files",
    lines: [
      ["cycle.csv", "Cycle, every row, CSV"],
      ["room.dxf", "Room, full size, DXF"],
    ],
  },
];

export const Files = memo(function Files({ design }: { design: number }) {
  const units = usePreferences((s) => s.units);
  return (
    <MenuOf
      label="Shop drawing"
      opener="Drawing ▾"
      sections={filesOf(units)}
      onPress={(address) => window.open(`/api/designs/${design}/${address}`, "_blank", "noopener")}
    />
  );
});

export const More = memo(function More() {
  const { units, setUnits, theme, setTheme } = usePreferences();
  const sections: Section[] = [
    { name: "Units", lines: Object.entries(UNIT_NAMES), now: units },
    {
      name: "Theme",
      lines: [
        ["light", "Light"],
        ["dark", "Dark"],
      ],
      now: theme,
    },
  ];
  const press = (key: string) => {
    if (key === "light" || key === "dark") setTheme(key);
    else setUnits(key as Units);
  };
  return (
    <MenuOf
      label="Units, theme"
      opener={<span aria-hidden="true">☰</span>}
      sections={sections}
      onPress={press}
    />
  );
});

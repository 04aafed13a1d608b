/** The curves of the whole cycle, grouped by the question that they answer. */

import { shocksOf } from "../../document/corners";
import { type Document, words } from "../../document/document";
import type { Quantity } from "../../figures/readings";

export interface Plotted {
  column: string;
  name: string;
  quantity: Quantity;
  /** A registered figure, or a run figure's finding, whose band it is held against. */
  band?: string;
  /** The ends that it must stay within, where the part itself has them. */
  within?: readonly [number | null, number | null];
}

export interface Question {
  asks: string;
  plots: Plotted[];
}

/** Every question that this design has curves for. */
export function questionsOf(document: Document): Question[] {
  const rear = document.axle.end === "rear";
  const { driveshaft: shaft, steering } = document;
  const housing: Plotted = rear
    ? { column: "pinion_change", name: "Pinion, nose up", quantity: "angle" }
    : { column: "caster_change", name: "Caster, more", quantity: "angle" };
  const all: Question[] = [
    { asks: rear ? "Does the pinion hold?" : "Does the caster hold?", plots: [housing] },
    {
      asks: "Where does the axle go?",
      plots: [
        { column: "axle_x", name: "Forward", quantity: "length" },
        { column: "axle_y", name: "To the left", quantity: "length" },
        { column: "yaw", name: "Turned in plan", quantity: "angle" },
      ],
    },
    {
      asks: "Does it squat or dive?",
      plots: [
        rear
          ? { column: "anti_squat", name: "Anti-squat", quantity: "percent", band: "anti_squat" }
          : { column: "anti_dive", name: "Anti-dive", quantity: "percent", band: "anti_dive" },
        { column: "roll_center_height", name: "Roll center", quantity: "length", band: "roll_center" },
      ],
    },
    {
      asks: "Does the shaft live?",
      plots: shaft
        ? [
            {
              column: "shaft_slip",
              name: "Slip drawn out",
              quantity: "length",
              within: [-shaft.slip.in, shaft.slip.out],
            },
            {
              column: "case_joint",
              name: "Joint at the case",
              quantity: "angle",
              within: [null, shaft.joint_limit.case],
            },
            {
              column: "pinion_joint",
              name: "Joint at the pinion",
              quantity: "angle",
              within: [null, shaft.joint_limit.pinion],
            },
            { column: "shaft_unsteady", name: "Unsteadiness", quantity: "angle", band: "unsteady shaft" },
          ]
        : [],
    },
    {
      asks: "Does it steer?",
      plots: steering ? [{ column: "bump_steer", name: "Knuckle turns left", quantity: "angle" }] : [],
    },
    {
      asks: "Does it bind?",
      plots: [
        {
          column: "joint_left",
          name: "Joint nearest its limit has left",
          quantity: "angle",
          within: [3, null],
        },
        { column: "bind", name: "Give needed", quantity: "length", band: "bind" },
      ],
    },
    {
      asks: "Do the shocks fit?",
      plots: shocksOf(document)
        .filter(({ id }) => !id.includes("right"))
        .map(({ id, extended, compressed }) => ({
          column: `shock ${id} to_shut`,
          name: `${words(id)}, stroke left`,
          quantity: "length" as const,
          within: [0, extended - compressed] as const,
        })),
    },
    {
      asks: "Does it hit?",
      plots: [{ column: GAP, name: "Least gap has to spare", quantity: "length", within: [0, null] }],
    },
  ];
  return all.filter(({ plots }) => plots.length > 0);
}

/** The least gap's column: it comes with the map of gaps, in fewer poses. */
export const GAP = "gap_spare";

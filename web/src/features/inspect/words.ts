import { type Said, saidText } from "../../lib/said";
import type { System } from "../../lib/units";
import type { State } from "../../ui/basics";
import type { Inspection } from "./queries";

export type Pick = { cell: string; label: string; options: readonly (readonly [string, string])[] };
export type Tick = { cell: string; label: string };

/** Lengths found on a rotor besides its thickness. */
export const depths = [
  { cell: "runout", label: "Runout, hub face cleaned" },
  { cell: "lip", label: "Lip at the edge" },
  { cell: "scoring", label: "Deepest score" },
  { cell: "crack", label: "Longest crack" },
] as const;

export const facePicks: Pick[] = [
  {
    cell: "crack_place",
    label: "It ends",
    options: [
      ["", "–"],
      ["face", "on the face"],
      ["edge", "at an edge"],
      ["hole", "at a hole"],
    ],
  },
  {
    cell: "rust",
    label: "Rust",
    options: [
      ["", "–"],
      ["none", "none"],
      ["film", "a film"],
      ["pitted", "pitted"],
    ],
  },
  {
    cell: "coating",
    label: "Coating",
    options: [
      ["", "–"],
      ["sound", "sound"],
      ["gone", "gone"],
    ],
  },
];
export const faceTicks: Tick[] = [
  { cell: "heat_spots", label: "heat spots" },
  { cell: "glazed", label: "glazed" },
  { cell: "crazed", label: "hairline crazing" },
  { cell: "chamfer_lost", label: "hole chamfer gone" },
];
export const underPicks: Pick[] = [
  {
    cell: "pins",
    label: "Slide pins",
    options: [
      ["", "–"],
      ["free", "free"],
      ["dry", "dry"],
      ["seized", "seized"],
    ],
  },
  {
    cell: "pistons",
    label: "Pistons",
    options: [
      ["", "–"],
      ["free", "free"],
      ["stiff", "stiff"],
      ["seized", "seized"],
    ],
  },
  {
    cell: "boot",
    label: "Boots",
    options: [
      ["", "–"],
      ["sound", "sound"],
      ["torn", "torn"],
    ],
  },
  {
    cell: "hose",
    label: "Hose",
    options: [
      ["", "–"],
      ["sound", "sound"],
      ["cracked", "cracked"],
      ["bulged", "bulged"],
    ],
  },
  {
    cell: "bearing",
    label: "Hub bearing",
    options: [
      ["", "–"],
      ["tight", "tight"],
      ["play", "has play"],
      ["noisy", "noisy"],
    ],
  },
];
export const underTicks: Tick[] = [
  { cell: "wet", label: "wet with fluid" },
  { cell: "frees_at_bleed_screw", label: "frees at the bleed screw" },
];

export const padState: Record<string, State> = {
  fresh: "fine",
  fine: "fine",
  plan: "close",
  due: "over",
  "at once": "over",
};
export const padWord: Record<string, string> = {
  fresh: "as new",
  fine: "fine",
  plan: "plan",
  due: "due",
  "at once": "at once",
};

/** A share in whole percent; the least of them are not nothing. */
export function shareText(share: number): string {
  const percent = Math.round(100 * share);
  return percent < 1 ? "< 1 %" : `${percent} %`;
}

/** A headline without the place it names. */
function foundText({ values }: Said, system: System): string {
  return saidText({ template: "{found}", values }, system);
}

/** What stands in a corner's head: the gravest verdict on that wheel. */
export function wheelState(
  inspection: Inspection,
  wheel: string,
  system: System,
): { state: State; text: string } | null {
  const own = inspection.rulings.filter(
    (ruling) => ruling.subject.startsWith(`${wheel}.`) && !ruling.overruled,
  );
  const pads = ["inner", "outer"]
    .map((side) => inspection.pads[`${wheel}.${side}`])
    .filter((word) => word !== undefined);
  const order: State[] = ["over", "close", "fine"];
  const found = [
    ...own.map((ruling) => ({
      state: ruling.state,
      text: foundText(ruling.headline, system),
    })),
    ...pads.map((word) => ({ state: padState[word] ?? "fine", text: `pads ${padWord[word]}` })),
  ].sort((a, b) => order.indexOf(a.state) - order.indexOf(b.state));
  const worst = found[0];
  return worst ? (worst.state === "fine" ? { state: "fine", text: "fine" } : worst) : null;
}

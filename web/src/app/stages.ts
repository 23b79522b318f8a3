import {
  Disc3,
  Flame,
  Gauge,
  NotebookText,
  PackageCheck,
  Route,
  Ruler,
  SearchCheck,
  Wrench,
} from "lucide-react";

/** The stages that exist, in working order; their keys are 1 to 9. */
export const stages = [
  { name: "machine", label: "Machine", icon: Gauge },
  { name: "inspect", label: "Inspect", icon: SearchCheck },
  { name: "duty", label: "Duty", icon: Route },
  { name: "choose", label: "Choose", icon: Disc3 },
  { name: "fit", label: "Fit", icon: PackageCheck },
  { name: "job", label: "Job", icon: Wrench },
  { name: "bed", label: "Bed", icon: Flame },
  { name: "life", label: "Life", icon: Ruler },
  { name: "log", label: "Log", icon: NotebookText },
] as const;

export const stageMarks = { empty: "○", started: "◐", done: "✓", attention: "!" } as const;
export const stageWords = { empty: "empty", started: "started", done: "done", attention: "look" } as const;

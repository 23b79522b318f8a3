import type { Schemas } from "../../api/client";

type Ruling = Schemas["RulingOut"];
/** `what` is in words of its own, or the sheet's own headline. */
export type Step = {
  subject: string;
  state: Ruling["state"];
  what: string | Ruling["headline"];
  to: string;
  label: string;
};

const axleOf = (subject: string) => subject.split(/[._]/)[0] ?? "";

/** What a finished sheet asks for, the gravest first; each thing once, with the stage that settles it. */
export function nextSteps(rulings: Ruling[]): Step[] {
  const steps: Step[] = [];
  const add = (subject: string, state: Step["state"], what: Step["what"], to: string, label: string) => {
    if (!steps.some((step) => step.subject === subject)) steps.push({ subject, state, what, to, label });
  };
  for (const ruling of rulings) {
    const { subject, state } = ruling;
    const word = ruling.overruled?.word ?? ruling.word;
    const axle = axleOf(subject);
    if (subject.endsWith(".pads") && /due|at once/.test(word))
      add(subject, "over", `${axle} pads are due`, "choose", "Choose new ones");
    else if (subject.endsWith(".pads") && word === "plan")
      add(subject, "close", `${axle} pads are due soon`, "choose", "Choose and order new ones");
    else if (/rotors?$/.test(subject) && word === "replace")
      add(`${axle}.rotors`, "over", `${axle} rotors are to be replaced`, "choose", "Choose rotors");
    else if (/rotors?$/.test(subject) && word === "machine")
      add(`${axle}.rotors`, "close", `${axle} rotors go to the lathe`, "", "");
    else if (subject === "fluid.age" && word === "change")
      add(subject, "close", "the fluid is due", "choose#fluids", "Choose a fluid");
    else if (state !== "fine" && !ruling.overruled) add(subject, state, ruling.headline, "", "");
  }
  return steps;
}

// What is being tried, per machine: on the sliders, never saved.
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { createStore, useStore } from "../../lib/store";

export type WhatIf = Required<Schemas["WhatIf"]>;
export const noWhatIf: WhatIf = {
  cooling_factor: 1,
  air_C: null,
  extra_mass_kg: 0,
  driver_level: null,
  repeats: null,
  speed_factor: 1,
  gear: null,
  fluid_age_months: null,
  trailer_brake_share: null,
  grade_factor: 1,
  length_factor: 1,
};

/** Machines a set was just fitted to under a what-if: what of it is true is asked there, until it is answered. */
export const fittedUnderStore = createStore<Record<number, true>>({});

export const whatIfStore = createStore<Record<number, WhatIf>>({});

export function useWhatIf(machineId: number): [WhatIf, (next: WhatIf) => void] {
  const all = useStore(whatIfStore);
  return [all[machineId] ?? noWhatIf, (next) => whatIfStore.set({ ...whatIfStore.get(), [machineId]: next })];
}

export function isTrying(whatIf: WhatIf): boolean {
  return (Object.keys(noWhatIf) as (keyof WhatIf)[]).some((name) => whatIf[name] !== noWhatIf[name]);
}

const SETTLED_MS = 500;

/** The what-if once the hand has rested on it: long work waits for that. */
export function useSettledWhatIf(id: number): WhatIf {
  const [whatIf] = useWhatIf(id);
  const [settled, setSettled] = useState(whatIf);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(whatIf), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [whatIf]);
  return settled;
}

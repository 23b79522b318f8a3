import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import { useMachines } from "../features/workshop/queries";
import { keysStore, switchBay, switchUnits } from "../lib/settings";
import { stages } from "./stages";

export const keyList: [string, string][] = [
  ["1 – 8", "Go to a stage"],
  ["[  ]", "Machine before, machine after"],
  ["0", "Workshop"],
  ["u", "Metric or imperial"],
  ["b", "Bay mode: large"],
  ["w", "Why: open the number with the focus, else the first reading"],
  ["?", "This list"],
];

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Whether something is among boxes: the figure after a box that was left is meant for the next one. */
function amongBoxes(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest("form, fieldset, [data-boxes]") !== null;
}

/** Keys that work everywhere, except while something is being typed. */
export function useKeys(openKeys: () => void) {
  const navigate = useNavigate();
  const machines = useMachines();
  // Whether the focus was among boxes last: what had it may have gone, and the next figure is typed all the same.
  const wasAmong = useRef(false);
  useEffect(() => {
    const moved = (event: Event) => {
      wasAmong.current = amongBoxes(event.target);
    };
    document.addEventListener("focusin", moved);
    document.addEventListener("pointerdown", moved);
    return () => {
      document.removeEventListener("focusin", moved);
      document.removeEventListener("pointerdown", moved);
    };
  }, []);
  useEffect(() => {
    function pressed(event: KeyboardEvent) {
      const written = typing(event.target);
      // A button was pressed: the hand is done with the boxes.
      if (!written && (event.key === "Enter" || event.key === " ")) wasAmong.current = false;
      if (keysStore.get() === "off" || event.ctrlKey || event.metaKey || event.altKey || written) return;
      const among = event.target === document.body ? wasAmong.current : amongBoxes(event.target);
      if (/^\d$/.test(event.key) && among) return;
      const ids = machines.data?.map((row) => row.id) ?? [];
      // Read at the key press: two quick keys must not start from where the first one left.
      const [, , id, stage = "machine"] = location.pathname.split("/");
      const machineId = id ? Number(id) : null;
      const place = machineId === null ? -1 : ids.indexOf(machineId);
      const numbered = stages[Number(event.key) - 1];
      if (numbered && machineId !== null) navigate(`/m/${machineId}/${numbered.name}`);
      else if (event.key === "0") navigate("/");
      else if (event.key === "[" && place > 0) navigate(`/m/${ids[place - 1]}/${stage}`);
      else if (event.key === "]" && place >= 0 && place < ids.length - 1)
        navigate(`/m/${ids[place + 1]}/${stage}`);
      else if (event.key === "u") switchUnits();
      else if (event.key === "b") switchBay();
      else if (event.key === "w")
        (
          document.activeElement?.closest<HTMLElement>("[data-why],[data-reading]") ??
          document.querySelector<HTMLElement>("[data-reading]")
        )?.click();
      else if (event.key === "?") openKeys();
    }
    document.addEventListener("keydown", pressed);
    return () => document.removeEventListener("keydown", pressed);
  }, [machines.data, navigate, openKeys]);
}

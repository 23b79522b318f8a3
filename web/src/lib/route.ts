import { useParams } from "react-router";

/** The machine the address names. */
export function useMachineId(): number {
  return Number(useParams().machineId);
}

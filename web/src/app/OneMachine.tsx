import { Outlet, useParams } from "react-router";

/** The stages of one machine: another machine begins with nothing of what was typed or opened for this one. */
export function OneMachine() {
  const { machineId } = useParams();
  return <Outlet key={machineId} />;
}

import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";
import { lost, useConnected } from "../lib/connection";
import { draftsWaiting } from "../lib/store";

/** Without connection every page says so, and what of one's own waits on this device. */
export function Connection() {
  const queries = useQueryClient();
  // What could not be asked meanwhile is asked again.
  const connected = useConnected(useCallback(() => void queries.invalidateQueries(), [queries]));
  useEffect(() => {
    window.addEventListener("offline", lost);
    return () => window.removeEventListener("offline", lost);
  }, []);
  if (connected) return null;
  const waiting = draftsWaiting();
  return (
    <p role="alert" className="border-b border-over bg-paper px-4 py-1.5 print:hidden">
      <span className="font-semibold text-over">▲ No connection.</span> What is shown was computed before, and
      nothing is computed now.{" "}
      {waiting > 0
        ? `${waiting === 1 ? "A sheet or draft" : `${waiting} sheets or drafts`} of yours waits on this device and is sent by itself once there is one.`
        : "What you type stays on this device until there is one."}
    </p>
  );
}

import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { lost, useConnected } from "../lib/connection";
import { onDevice } from "../lib/onDevice";
import { draftsWaiting } from "../lib/store";
import { pathOf, type Waiting, wordsOf } from "../lib/waiting";
import { useWaiting } from "./outboxes";

const line = "border-b bg-paper px-4 py-1.5 print:hidden";

/** Without connection every page says so, and what of one's own waits here; with one, what was not taken. */
export function Connection() {
  const queries = useQueryClient();
  // What could not be asked meanwhile is asked again.
  const connected = useConnected(useCallback(() => void queries.invalidateQueries(), [queries]));
  const waiting = useWaiting();
  useEffect(() => {
    window.addEventListener("offline", lost);
    return () => window.removeEventListener("offline", lost);
  }, []);
  return (
    <>
      {!connected && (
        <p role="alert" className={`${line} border-over`}>
          <span className="font-semibold text-over">▲ No connection.</span> What is shown was computed before,
          and nothing is computed now. <Waits rows={waiting.filter((row) => row.waits > 0)} />
        </p>
      )}
      <Stuck rows={waiting.filter((row) => row.stuck > 0)} />
      <NewVersion />
    </>
  );
}

function Waits({ rows }: { rows: Waiting[] }) {
  if (rows.length === 0)
    return draftsWaiting() > 0
      ? "A draft of yours stays on this device."
      : "What you type stays on this device until there is one.";
  return (
    <>
      <span data-waits>
        <Rows rows={rows} count="waits" />
      </span>{" "}
      on this device: sent by itself once there is one.
    </>
  );
}

/** So many of each, with the way there. */
function Rows({ rows, count }: { rows: Waiting[]; count: "waits" | "stuck" }) {
  return rows.map((row, index) => (
    <span key={row.key}>
      {index > 0 && ", "}
      <Link className="underline underline-offset-2" to={pathOf(row)}>
        {wordsOf(row.kind, row[count])}
      </Link>
    </span>
  ));
}

/** What the server has not taken as it is, wherever one is: on the page it is of, that page says it itself. */
function Stuck({ rows }: { rows: Waiting[] }) {
  const { pathname } = useLocation();
  const away = rows.filter((row) => pathOf(row).split("?")[0] !== pathname);
  if (away.length === 0) return null;
  return (
    <p role="note" className={`${line} border-close`} data-stuck>
      <span className="font-semibold text-close">◐ Not taken yet:</span> <Rows rows={away} count="stuck" />.
      Look at it there: nothing of it is lost.
    </p>
  );
}

/** Another version has come: this page stays what it is until its owner has nothing open any more. */
function NewVersion() {
  const [come, setCome] = useState(false);
  useEffect(() => {
    void onDevice((device) => device.onNewVersion(setCome));
  }, []);
  if (!come) return null;
  return (
    <p role="note" className={`${line} border-hairline`} data-new-version>
      A new version is there. It begins once every page of this one is closed; until then this one goes on.
    </p>
  );
}

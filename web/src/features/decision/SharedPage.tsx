import { useParams } from "react-router";
import { problemText } from "../../api/client";
import { switchUnits, systemStore } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { Button, buttonLook, Failure, Working } from "../../ui/basics";
import { DecisionView } from "./DecisionView";
import { useShared } from "./queries";

/** A shared decision, for anybody with its address: nothing to sign in to, nothing to change. */
export function SharedPage() {
  const token = useParams().token ?? "";
  const found = useShared(token);
  const system = useStore(systemStore);
  return (
    <main className="mx-auto max-w-5xl p-4">
      {found.isPending && <Working>Opening the decision…</Working>}
      {found.error && (
        <>
          <Failure text={problemText(found.error)} />
          <p>It is not shared any more, or the address is not whole. Ask whoever sent it.</p>
        </>
      )}
      {found.data && (
        <DecisionView {...found.data} engine={found.data.engine_version}>
          <a
            className={`inline-flex items-center ${buttonLook()}`}
            href={`/api/shared/${token}/pdf?units=${system}`}
            target="_blank"
            rel="noreferrer"
          >
            PDF
          </a>
          <Button onClick={switchUnits}>Units: {system}</Button>
        </DecisionView>
      )}
    </main>
  );
}

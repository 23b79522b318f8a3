import { useState } from "react";
import { Link, useParams } from "react-router";
import { problemText } from "../../api/client";
import { useHand } from "../../lib/hand";
import { printPage } from "../../lib/print";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { Button, buttonLook, Failure, Working } from "../../ui/basics";
import { CheckField } from "../../ui/fields";
import { usePublicAddress, useSession } from "../session/queries";
import { DecisionView } from "./DecisionView";
import { useDecision, useShare } from "./queries";

/** One kept decision in the workshop: read it, print it, share it. */
export function DecisionPage() {
  const machineId = useMachineId();
  const id = Number(useParams().decisionId);
  const { system } = useUnits();
  const found = useDecision(id);
  const share = useShare(machineId);
  const workshop = useSession().data?.workshop ?? "";
  const begins = usePublicAddress();
  const [copied, setCopied] = useState(false);
  const [notes, hold] = useHand<boolean>();
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Opening the decision…</Working>;
  const row = found.data;
  const address = `${begins}shared/${row.token}`;
  return (
    <>
      <p className="mb-2 print:hidden">
        <Link className="underline underline-offset-2" to={`/m/${machineId}/choose`}>
          Back to Choose
        </Link>
      </p>
      <DecisionView {...row} workshop={workshop} engine={row.engine_version}>
        <a
          className={`inline-flex items-center ${buttonLook()}`}
          href={`/api/decisions/${id}/pdf?units=${system}`}
          target="_blank"
          rel="noreferrer"
        >
          PDF
        </a>
        <Button onClick={printPage}>Print</Button>
        <Button
          disabled={share.isPending || row.removed}
          onClick={() => share.mutate({ decision: id, shared: !row.shared, notes: false })}
        >
          {row.shared ? "Stop sharing" : "Share for reading"}
        </Button>
      </DecisionView>
      {share.error && <Failure text={problemText(share.error)} />}
      {row.shared && row.token && (
        <section className="mt-4 border border-ink p-3 print:hidden" aria-label="Shared">
          <p>
            Whoever has this address can read this page, and nothing else of the workshop, until you stop
            sharing or take the machine out:
          </p>
          <p className="mt-1 flex flex-wrap items-center gap-3">
            <a className="figures break-all underline underline-offset-2" href={address}>
              {address}
            </a>
            <Button small onClick={() => navigator.clipboard?.writeText(address).then(() => setCopied(true))}>
              {copied ? "Copied" : "Copy"}
            </Button>
          </p>
          <div className="mt-2">
            <CheckField
              checked={notes ?? row.share_notes}
              onChange={(ticked) =>
                hold(ticked, share.mutateAsync({ decision: id, shared: true, notes: ticked }))
              }
            >
              Show the notes on decision, machine and duty there too
            </CheckField>
          </div>
        </section>
      )}
    </>
  );
}

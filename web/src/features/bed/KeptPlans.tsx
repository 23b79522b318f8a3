import { useNavigate } from "react-router";
import { problemText } from "../../api/client";
import { useHand } from "../../lib/hand";
import { useUnits } from "../../lib/settings";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, LinkButton } from "../../ui/basics";
import { useMarkDone, usePlans, useRemovePlan, useStartRun } from "./queries";

type Props = { machineId: number; opened: number | null; onOpen: (plan: number | null) => void };

const link = "inline-flex min-h-6 items-center underline underline-offset-2";

/** Plans that were kept: opened, driven with the card, printed, ticked off, taken out. */
export function KeptPlans({ machineId, opened, onOpen }: Props) {
  const units = useUnits();
  const navigate = useNavigate();
  const plans = usePlans(machineId);
  const mark = useMarkDone(machineId);
  const remove = useRemovePlan(machineId);
  const start = useStartRun(machineId);
  const [ticked, tick] = useHand<{ plan: number; done: boolean }>();
  const rows = (plans.data ?? []).filter((plan) => !plan.removed);
  const gone = plans.data?.find((plan) => plan.removed && plan.id === remove.variables?.row);
  const run = (id: number) => navigate(`/m/${machineId}/bed/run/${id}`);
  const begin = (plan: number) =>
    start.mutate(
      { plan, token: crypto.randomUUID?.() ?? `${Date.now()}` },
      { onSuccess: (started) => run(started.id) },
    );
  return (
    <section className="mt-6" aria-label="Kept plans">
      <GroupTitle>Kept for this set</GroupTitle>
      {plans.data && rows.length === 0 && (
        <p className="text-muted">Nothing yet. Keep the plan, then drive it with the card.</p>
      )}
      <ul>
        {rows.map((plan) => {
          const under = plan.run_id !== null && !plan.run_ended;
          return (
            <li key={plan.id} className="border-t border-hairline py-2" data-plan={plan.id}>
              <p>
                <span className="font-semibold">{plan.label}</span>, {plan.stops} brakings up to{" "}
                {units.withUnit(plan.top_speed_mps, "speed")}, {plan.hard_g.toFixed(2)} g
                <span className="condensed block text-xs text-muted">
                  {plan.done_on
                    ? `driven on ${dateText(plan.done_on)}`
                    : under
                      ? "under way"
                      : `kept on ${dateText(plan.made_at)}, not driven yet`}
                </span>
              </p>
              <p className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
                {under || plan.run_ended ? (
                  <Button small onClick={() => run(plan.run_id ?? 0)}>
                    {under ? "Go on with the card" : "See the run"}
                  </Button>
                ) : (
                  plan.done_on === null && (
                    <Button small primary disabled={start.isPending} onClick={() => begin(plan.id)}>
                      Start bedding
                    </Button>
                  )
                )}
                {!under && !plan.run_ended && (
                  <label className="flex gap-2">
                    <input
                      type="checkbox"
                      className="mt-0.5 size-4 accent-ink"
                      checked={ticked?.plan === plan.id ? ticked.done : plan.done_on !== null}
                      onChange={(event) => {
                        const now = { plan: plan.id, done: event.target.checked };
                        tick(now, mark.mutateAsync(now));
                      }}
                    />
                    driven
                  </label>
                )}
              </p>
              <p className="flex flex-wrap gap-x-4">
                <button
                  type="button"
                  className={link}
                  aria-pressed={opened === plan.id}
                  onClick={() => onOpen(opened === plan.id ? null : plan.id)}
                >
                  {opened === plan.id ? "Close" : "Open"}
                </button>
                <a
                  className={link}
                  href={`/api/plans/${plan.id}/card?units=${units.system}`}
                  target="_blank"
                  rel="noreferrer"
                >
                  Card to print (PDF)
                </a>
                <button
                  type="button"
                  className={link}
                  onClick={() => {
                    if (opened === plan.id) onOpen(null);
                    remove.mutate({ row: plan.id, removed: true });
                  }}
                >
                  Take out
                </button>
              </p>
            </li>
          );
        })}
      </ul>
      {rows.some((plan) => plan.done_on) && (
        <p className="mt-2">
          <LinkButton to={`/m/${machineId}/life`}>See when the pads are due</LinkButton>
        </p>
      )}
      {gone && (
        <p className="mt-1 flex items-center gap-3">
          The plan is out of the list.
          <Button onClick={() => remove.mutate({ row: gone.id, removed: false })}>Undo</Button>
        </p>
      )}
      {(mark.error || remove.error || start.error) && (
        <Failure text={problemText(mark.error ?? remove.error ?? start.error)} />
      )}
    </section>
  );
}

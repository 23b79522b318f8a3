import { useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Button, Failure, GroupTitle, LinkButton, Working } from "../../ui/basics";
import { type AxleFit, type Fit, useIntend, useLastResort, useMeasurePart } from "./queries";

type Props = { machineId: number; fit: Fit; axle: AxleFit };

/** Ways out, the honest ones first; the last resort is folded away behind its cost. */
export function Ways({ machineId, fit, axle }: Props) {
  const { say } = useUnits();
  const intend = useIntend(machineId);
  const measure = useMeasurePart(machineId);
  let title = "";
  return (
    <section aria-label="Ways out" className="mb-6">
      <GroupTitle>Ways out, the honest ones first</GroupTitle>
      <ul>
        {axle.ways.map((way) => {
          const again = way.title === title;
          title = way.title;
          return (
            <li
              key={`${way.kind} ${way.key}`}
              data-way={way.kind}
              className={again ? "pb-2" : "border-t border-hairline py-2"}
            >
              {!again && <h3 className="font-semibold">{way.title}</h3>}
              <p className="condensed">{say(way.text)}</p>
              <p className="mt-1 flex flex-wrap gap-2">
                {way.key && (
                  <Button small onClick={() => intend.mutate({ key: way.key })}>
                    Check this set
                  </Button>
                )}
                {way.kind === "rotor" && !again && (
                  <LinkButton to={`/m/${machineId}/choose`}>Look in Choose</LinkButton>
                )}
                {way.kind === "send_back" && (
                  <LinkButton to="/catalogue">Open it in the catalogue</LinkButton>
                )}
                {way.kind === "caliper" && (
                  <LinkButton to={`/m/${machineId}/machine`}>Plan a set-up</LinkButton>
                )}
                {way.kind === "shims" && (
                  <Button
                    small
                    onClick={() =>
                      measure.mutate({
                        key: fit.key,
                        axle: axle.axle,
                        part: "pad",
                        name: "shim_m",
                        value: 0,
                        seen: null,
                      })
                    }
                  >
                    Leave them off
                  </Button>
                )}
              </p>
            </li>
          );
        })}
      </ul>
      {intend.error && <Failure text={problemText(intend.error)} />}
      {measure.error && <Failure text={problemText(measure.error)} />}
      <LastResort machineId={machineId} fit={fit} axle={axle} />
    </section>
  );
}

function LastResort({ machineId, fit, axle }: Props) {
  const [open, setOpen] = useState(false);
  const { say } = useUnits();
  const found = useLastResort(machineId, fit.key, axle.axle, open);
  return (
    <details
      className="border-t border-hairline py-2"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer text-muted">Last resort: take friction material off</summary>
      {found.error && <Failure text={problemText(found.error)} retry={() => found.refetch()} />}
      {open && !found.data && !found.error && <Working>Working out what it costs in life…</Working>}
      {found.data && (
        <div className="condensed mt-1 border-l-2 border-over pl-3">
          <p>
            {found.data.text
              ? say(found.data.text)
              : "So much is too much: nothing would be left above the thickness at which they are changed."}
          </p>
          <p className="mt-1 text-muted">{say(found.data.caution)}</p>
        </div>
      )}
    </details>
  );
}

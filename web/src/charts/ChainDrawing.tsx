import { Fragment, type ReactNode } from "react";

type Link = { name: string; value: ReactNode; note?: string };
type Props = { links: Link[]; ends: { name: string; values: ReactNode[] }[] };

/** Pedal to pads as a chain: every link with the force or pressure that goes through it. */
export function ChainDrawing({ links, ends }: Props) {
  return (
    <div className="border-y border-hairline py-2" data-chain>
      <ol className="flex flex-wrap items-stretch gap-y-2">
        {links.map((link, index) => (
          <li key={link.name} className="flex items-center">
            {index > 0 && (
              <span aria-hidden="true" className="px-1.5 text-muted">
                ▸
              </span>
            )}
            <span className="border-l-2 border-ink pl-1.5">
              <span className="condensed block text-xs text-muted">{link.name}</span>
              <span className="figures inline-flex min-h-6 items-center font-semibold">{link.value}</span>
              {link.note && <span className="condensed block text-xs text-muted">{link.note}</span>}
            </span>
          </li>
        ))}
      </ol>
      <dl className="mt-2 grid grid-cols-2 gap-x-4">
        {ends.map((end) => (
          <div key={end.name} className="border-t-2 border-ink pt-1">
            <dt className="condensed text-xs text-muted">{end.name}</dt>
            {end.values.map((value, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the links stand in one order for good
              <Fragment key={place}>
                <dd className="figures font-semibold leading-snug">{value}</dd>
              </Fragment>
            ))}
          </div>
        ))}
      </dl>
    </div>
  );
}

import { connectedStore } from "../lib/connection";
import { useStore } from "../lib/store";
import { Button, Working } from "./basics";

type Props = { doing: string; share: number; place?: number; onStop: () => void };

/** Work that takes more than a second: what it is doing, how far it is, and a way to stop it. */
export function Progress({ doing, share, place = 0, onStop }: Props) {
  const connected = useStore(connectedStore);
  if (!connected) return <Working>{doing}</Working>;
  const percent = Math.round(100 * Math.min(1, Math.max(0, share)));
  return (
    <div className="my-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      <span className="condensed text-muted" role="status">
        {place > 0 ? `Waiting its turn, ${place} before it: ${doing.toLowerCase()}` : doing}…
      </span>
      <div
        role="progressbar"
        aria-label={doing}
        aria-valuenow={percent}
        aria-valuemin={0}
        aria-valuemax={100}
        className="relative h-2 w-40 border-b border-ink"
      >
        <div className="absolute bottom-0 left-0 h-2 bg-ink" style={{ width: `${percent}%` }} />
      </div>
      <span className="figures text-xs">{percent} %</span>
      <Button small onClick={onStop}>
        Stop
      </Button>
    </div>
  );
}

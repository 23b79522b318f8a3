// The strip, how sure it is, and why.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { send, to, useAsk } from "../../api/hooks";
import { at } from "../../api/keys";
import { afterOthers } from "../../api/quiet";
import { lastSeen } from "../../api/seen";
import { createStore } from "../../lib/store";
import { isTrying, useSettledWhatIf, useWhatIf } from "../whatif";

/** Pads were chosen here, and nobody has said that they are bedded in. */
export function toBeBedded(stages: Schemas["StageOut"][]): boolean {
  const is = (name: string) => stages.some((stage) => stage.name === name && stage.state === "done");
  return is("choose") && !is("bed");
}

export function useVerdict(id: number) {
  const [whatIf] = useWhatIf(id);
  const queries = useQueryClient();
  return useQuery({
    queryKey: ["machine", id, "verdict", whatIf],
    queryFn: async ({ signal }) => {
      await afterOthers(queries, ["tried"], signal);
      const ask = () => send("post", "/api/machines/{machine_id}/verdict", { ...at(id, whatIf), signal });
      // What was only tried is not what the machine is.
      return isTrying(whatIf) ? ask() : lastSeen(`verdict/${id}`, ask);
    },
    placeholderData: keepPreviousData,
  });
}

/** How sure the five readings are; asked for once the sliders rest, and nothing while they move. */
export function useRanges(id: number, enabled: boolean): Schemas["RangesOut"] | undefined {
  const [whatIf] = useWhatIf(id);
  const body = useSettledWhatIf(id);
  const queries = useQueryClient();
  const query = useAsk(
    ["machine", id, "ranges", body],
    "post",
    "/api/machines/{machine_id}/ranges",
    at(id, body),
    {
      enabled,
      slot: "ranges",
      after: (signal) => afterOthers(queries, ["candidates"], signal),
    },
  );
  return body === whatIf ? query.data : undefined;
}

/** A number by its topic, and whose it is: of a set, a pedal force, a bedding plan; else the machine as it stands. */
export type WhyAsk = { topic: string } & Partial<
  Pick<Schemas["WhyAsk"], "key" | "mixed" | "weights" | "pedal_force_N" | "rotor_C" | "bedding" | "stop">
>;

export const whyStore = createStore<WhyAsk | null>(null);

export function useWhy(id: number, ask: WhyAsk | null) {
  const [whatIf] = useWhatIf(id);
  const { topic = "", ...rest } = ask ?? {};
  const body = { ...whatIf, ...rest } as Schemas["WhyAsk"];
  const where = to({ machine_id: id, reading: topic }, body);
  return useAsk(
    ["machine", id, "why", topic, body],
    "post",
    "/api/machines/{machine_id}/why/{reading}",
    where,
    { enabled: ask !== null },
  );
}

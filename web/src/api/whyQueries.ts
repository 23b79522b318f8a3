// Which number is open in the Why drawer, and what it says.
import { useQuery } from "@tanstack/react-query";
import { createStore } from "../lib/store";
import { answer, client, type Schemas } from "./client";
import { useWhatIf } from "./whatIf";

/** A number by its topic, and whose it is: of a set, a pedal force, a bedding plan; else the machine as it stands. */
export type WhyAsk = { topic: string } & Partial<
  Pick<Schemas["WhyAsk"], "key" | "mixed" | "weights" | "pedal_force_N" | "rotor_C" | "bedding" | "stop">
>;

export const whyStore = createStore<WhyAsk | null>(null);

export function useWhy(id: number, ask: WhyAsk | null) {
  const [whatIf] = useWhatIf(id);
  const { topic = "", ...rest } = ask ?? {};
  const body = { ...whatIf, ...rest } as Schemas["WhyAsk"];
  return useQuery({
    queryKey: ["machine", id, "why", topic, body],
    enabled: ask !== null,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/machines/{machine_id}/why/{reading}", {
          params: { path: { machine_id: id, reading: topic } },
          body,
          signal,
        }),
      ),
  });
}

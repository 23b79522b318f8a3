// The set that is to go on: whether it does, what is in its boxes, what was measured of its parts.
import type { Schemas } from "../../api/client";
import { to, useAsk, useChange, useSend } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";

export type Fit = Schemas["FitOut"];
export type AxleFit = Schemas["AxleCheckOut"];

export const useFit = (id: number) =>
  useAsk(["machine", id, "fit"], "get", "/api/machines/{machine_id}/fit", at(id));

export type Place = "front_pads" | "rear_pads" | "front_rotors" | "rear_rotors";

/** Say which set is to go on, by its key; empty takes that back. */
export const useIntend = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/intended", at(id), useRefresh(id));

/** One part of the set that is to go on: two that are picked at the same moment both count. */
export const useIntendPart = (id: number) =>
  useSend(
    "put",
    "/api/machines/{machine_id}/intended/{place}",
    ({ place, part }: { place: Place; part: string }) => to({ machine_id: id, place }, { part }),
    useRefresh(id),
  );

export const useCountBox = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/box", at(id), undefined, useRefresh(id));

/** What was measured of a part at hand: it goes before what its number says, on every machine. */
export const useMeasurePart = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/part-measure", at(id), undefined, useRefresh(id));

/** What taking friction material off would cost; asked when somebody opens it. */
export const useLastResort = (id: number, key: string, axle: "front" | "rear", enabled: boolean) =>
  useAsk(
    ["machine", id, "fit", "last-resort", key, axle],
    "get",
    "/api/machines/{machine_id}/fit/last-resort",
    { params: { path: { machine_id: id }, query: { key, axle } } },
    { enabled },
  );

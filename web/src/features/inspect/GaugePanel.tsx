import { useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { problemText } from "../../api/client";
import { createStore, useStore } from "../../lib/store";
import { Button, Failure } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { readGauge } from "./queries";
import { useSheet } from "./sheet";

type Settings = Required<Pick<Schemas["GaugeAsk"], "unit" | "story">> & { every: number };
const settingsStore = createStore<Settings>({ unit: "mm", story: "even", every: 0 }, "thermaxis.gauge");
const SEND_KEY = "F2";

/** Type into a box as a gauge on the keyboard port does: all of it, then Enter. */
function typeInto(field: HTMLInputElement, typed: string) {
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(field, typed);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  // React has to see the text before the key.
  queueMicrotask(() =>
    field.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true })),
  );
}

/** The reading cell the gauge is held at: the one in focus, or the last that was. */
function useMarked(): () => HTMLInputElement | null {
  const last = useRef<HTMLInputElement | null>(null);
  useEffect(() => {
    const focused = (event: FocusEvent) => {
      if (event.target instanceof HTMLInputElement && event.target.dataset.cell === "reading") {
        last.current = event.target;
      }
    };
    document.addEventListener("focusin", focused);
    return () => document.removeEventListener("focusin", focused);
  }, []);
  return useCallback(() => {
    if (last.current?.isConnected) return last.current;
    return document.querySelector<HTMLInputElement>('[data-cell="reading"]');
  }, []);
}

/** A stand-in for a gauge that types its readings: held at a simulated wheel, sent by a key or by itself. */
export function GaugePanel() {
  const { inspection } = useSheet();
  const settings = useStore(settingsStore);
  const [failed, setFailed] = useState<string | null>(null);
  const [running, setRunning] = useState(false);
  const seed = useRef(1);
  // One at a time: a second reading would be of the same cell.
  const asking = useRef(false);
  const marked = useMarked();
  const change = (next: Partial<Settings>) => settingsStore.set({ ...settings, ...next });

  const sendReading = useCallback(async () => {
    if (asking.current) return true;
    const field = marked();
    if (!field) return false;
    asking.current = true;
    field.focus();
    seed.current += 1;
    try {
      const { unit, story } = settingsStore.get();
      const body = { cell: field.dataset.name ?? "", seed: seed.current, scatter_m: 0.000004, unit, story };
      const { typed } = await readGauge(inspection.id, body);
      setFailed(null);
      typeInto(field, typed);
      return true;
    } catch (error) {
      setFailed(problemText(error));
      return false;
    } finally {
      asking.current = false;
    }
  }, [inspection.id, marked]);

  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== SEND_KEY) return;
      event.preventDefault();
      void sendReading();
    };
    document.addEventListener("keydown", pressed);
    return () => document.removeEventListener("keydown", pressed);
  }, [sendReading]);

  useEffect(() => {
    if (!running) return;
    const timer = setInterval(
      async () => {
        const field = marked();
        const sent = await sendReading();
        // It stops by itself after the last cell, and where a reading was not taken.
        const readings = [...document.querySelectorAll('[data-cell="reading"]')];
        if (!sent || field === readings.at(-1)) setRunning(false);
      },
      1000 * Math.max(0.2, settings.every || 2),
    );
    return () => clearInterval(timer);
  }, [running, settings.every, marked, sendReading]);

  return (
    <section aria-label="Simulated gauge" className="mb-3 border border-ink p-3">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-28">
          <SelectField
            label="It shows"
            value={settings.unit}
            options={[
              ["mm", "mm"],
              ["in", "inches"],
            ]}
            onChange={(unit) => change({ unit: unit === "in" ? "in" : "mm" })}
          />
        </div>
        <div className="w-48">
          <SelectField
            label="It is held at"
            value={settings.story}
            options={[
              ["even", "an evenly worn machine"],
              ["stuck pin", "one with a stuck slide pin"],
              ["worn lip", "rotors with a worn lip"],
            ]}
            onChange={(story) => change({ story: story as Settings["story"] })}
          />
        </div>
        <Button primary onClick={() => void sendReading()}>
          Send a reading
        </Button>
        <Button onClick={() => setRunning(!running)} aria-pressed={running}>
          {running ? "Stop sending" : "Send one every 2 s"}
        </Button>
      </div>
      <p className="condensed mt-1 text-xs text-muted">
        Stands in for a gauge that types a number and Enter, which needs no panel: put the cursor in the first
        cell. <span className="figures">{SEND_KEY}</span> is its button.
      </p>
      {failed && <Failure text={failed} />}
    </section>
  );
}

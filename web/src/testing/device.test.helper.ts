import { afterEach } from "vitest";
import { systemStore } from "../lib/settings";
import { setPerson } from "../lib/store";

// The files share one process: what one leaves on the device is not there for the next.
afterEach(async () => {
  await setPerson(null);
  systemStore.set("metric");
  globalThis.localStorage?.clear();
});

import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// What is waited for comes when the machine gets round to it.
configure({ asyncUtilTimeout: 60_000 });
afterEach(cleanup);

// There is no layout here, so no size ever changes.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

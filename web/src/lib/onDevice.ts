// What the device keeps is seldom needed, and by nobody who only looks: its code is fetched when it is.
type Device = typeof import("./device");

/** Do something with what the device keeps; undefined where its code did not come, or it keeps nothing. */
export const onDevice = <T>(act: (device: Device) => T | Promise<T>): Promise<T | undefined> =>
  import("./device").then(act).catch(() => undefined);

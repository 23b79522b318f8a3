import { type ComponentType, useCallback, useEffect, useState } from "react";
import type { MenuProps, OpenedProps } from "./MenuList";

// On a slow line what a page draws first needs all of it; who presses meanwhile does not wait for this.
const FETCH_AFTER_MS = 5000;

let loaded: ComponentType<OpenedProps> | null = null;
const load = () =>
  import("./MenuList").then(
    (module) => {
      loaded = module.MenuList;
    },
    () => undefined, // the button stays as it is; pressed again, it tries again
  );

/** A button that opens a list of things to do. What places the list comes after the first drawing of a page. */
export function Menu(props: MenuProps) {
  const [wanted, setWanted] = useState(false);
  const [, draw] = useState(() => loaded);
  const fetch = useCallback(() => void load().then(() => draw(() => loaded)), []);
  useEffect(() => {
    if (loaded) return;
    const soon = setTimeout(fetch, FETCH_AFTER_MS);
    return () => clearTimeout(soon);
  }, [fetch]);
  if (loaded) {
    const List = loaded;
    return <List {...props} defaultOpen={wanted} />;
  }
  const press = () => {
    setWanted(true);
    fetch();
  };
  return (
    <button
      type="button"
      className={props.className}
      aria-label={props.label}
      aria-haspopup="menu"
      onClick={press}
    >
      {props.children}
    </button>
  );
}

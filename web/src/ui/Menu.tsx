import { type ComponentType, useEffect, useState } from "react";
import type { MenuProps, OpenedProps } from "./menus";

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
  const [, draw] = useState(loaded !== null);
  useEffect(() => {
    if (!loaded) void load().then(() => draw(true));
  }, []);
  if (loaded) {
    const List = loaded;
    return <List {...props} defaultOpen={wanted} />;
  }
  const press = () => {
    setWanted(true);
    void load().then(() => draw(true));
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

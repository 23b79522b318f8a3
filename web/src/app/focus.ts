import { type RefObject, useEffect, useRef } from "react";
import { useNavigationType } from "react-router";

/**
 * Where an action takes the button or field away that the focus was on, or switches it off for a while, the focus goes
 * on to the nearest thing around it that is still there: what the action has put there. Switched on again, it is back.
 */
export function useFocusKept() {
  useEffect(() => {
    let last: HTMLElement | null = null;
    let wasOff = false;
    let around: HTMLElement[] = [];
    const took = ({ target }: FocusEvent) => {
      if (!(target instanceof HTMLElement) || target === document.body) return;
      last = target;
      wasOff = false;
      around = [];
      for (let up = target.parentElement; up && up !== document.body; up = up.parentElement) around.push(up);
    };
    // A press beside everything takes the focus away, and is meant to.
    const pressed = () => {
      last = null;
    };
    const seen = new MutationObserver(() => {
      if (!last) return;
      const isOff = last.matches(":disabled");
      wasOff ||= isOff;
      if (document.activeElement !== document.body) return;
      if (last.isConnected) {
        // Left for something that has gone in the same moment, it is not taken up again: what is typed then is not for it.
        if (wasOff && !isOff) last.focus({ preventScroll: true });
        return;
      }
      const near = around.find((element) => element.isConnected && element.id !== "root");
      if (!near) return;
      if (!near.hasAttribute("tabindex")) near.tabIndex = -1;
      near.focus({ preventScroll: true });
    });
    document.addEventListener("focusin", took);
    document.addEventListener("pointerdown", pressed);
    seen.observe(document.body, {
      subtree: true,
      childList: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    return () => {
      seen.disconnect();
      document.removeEventListener("focusin", took);
      document.removeEventListener("pointerdown", pressed);
    };
  }, []);
}

/** Another page begins at its beginning, unless something on it has taken the focus by itself. */
export function useFocusOnPage(main: RefObject<HTMLElement | null>, pathname: string) {
  const before = useRef(pathname);
  const how = useNavigationType();
  useEffect(() => {
    if (before.current === pathname) return;
    before.current = pathname;
    if (!main.current?.contains(document.activeElement)) main.current?.focus({ preventScroll: true });
    if (how !== "POP") scrollTo(0, 0);
  }, [main, pathname, how]);
}

import "@testing-library/jest-dom/vitest";
import { act, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { flushSync } from "react-dom";
import { beforeEach, expect, test } from "vitest";
import { Form } from "../ui/Form";
import { TextField } from "../ui/fields";
import { useFocusKept } from "./focus";

function Page({ children }: { children: ReactNode }) {
  useFocusKept();
  return (
    <main>
      {children}
      <p>Beside everything</p>
    </main>
  );
}

/** Something that is done by a press, while it lasts switched off, and then says what came of it. */
function Doing({ then }: { then: (done: () => void) => void }) {
  const [state, set] = useState<"open" | "busy" | "done">("open");
  if (state === "done") return <p>It is kept.</p>;
  const press = () => {
    set("busy");
    then(() => set("done"));
  };
  return (
    <button type="button" disabled={state === "busy"} onClick={press}>
      Keep
    </button>
  );
}

let finish = () => {};
beforeEach(() => {
  finish = () => {};
});

test("the focus goes on to what an action puts in the place of its button", async () => {
  const user = userEvent.setup();
  render(
    <Page>
      <section aria-label="Kept">
        <Doing then={(done) => (finish = done)} />
      </section>
    </Page>,
  );
  await user.tab();
  expect(screen.getByRole("button")).toHaveFocus();
  await user.keyboard("{Enter}");
  finish();
  expect(await screen.findByText("It is kept.")).toBeVisible();
  await expect.poll(() => document.activeElement).toBe(screen.getByRole("region", { name: "Kept" }));
});

/** A box with a way out of what is wrong with it, which goes once the box is left with something else in it. */
function Wrong({ off = false }: { off?: boolean }) {
  const [text, set] = useState("8,8.");
  const [wrong, say] = useState(true);
  return (
    <>
      <input
        disabled={off}
        value={text}
        onChange={(event) => set(event.target.value)}
        onBlur={() => flushSync(() => say(false))}
      />
      {wrong && <button type="button">Take it out</button>}
    </>
  );
}

/** Leave a box by Tab for what goes in the same moment: a browser's focus is nowhere then. */
async function leave(box: HTMLElement) {
  act(() => box.blur());
  expect(screen.queryByRole("button")).toBeNull();
  // What follows a change of the page has had its turn after this.
  await act(async () => {});
}

test("a box that was left is not taken up again where what it was left for has gone", async () => {
  render(
    <Page>
      <Wrong />
    </Page>,
  );
  await userEvent.setup().tab();
  await leave(screen.getByRole("textbox"));
  expect(document.body).toHaveFocus();
});

test("nor is one that was off for a while before it was left", async () => {
  const draw = (off: boolean) => (
    <Page>
      <Wrong off={off} />
    </Page>
  );
  const drawn = render(draw(false));
  await userEvent.setup().tab();
  const box = screen.getByRole("textbox");
  drawn.rerender(draw(true));
  await act(async () => {});
  drawn.rerender(draw(false));
  // A browser takes the focus off what is switched off, and it is given back here.
  act(() => screen.getByRole("button").focus());
  act(() => box.focus());
  await leave(box);
  expect(document.body).toHaveFocus();
});

let again = () => {};
function Busy() {
  const [busy, set] = useState(false);
  again = () => set(false);
  return (
    <button type="button" disabled={busy} onClick={() => set(true)}>
      Save
    </button>
  );
}

test("a button that is off for a while has the focus again", async () => {
  const user = userEvent.setup();
  render(
    <Page>
      <Busy />
    </Page>,
  );
  await user.tab();
  await user.keyboard("{Enter}");
  // A browser takes the focus off what is switched off; here it has to be done.
  screen.getByRole("button").blur();
  act(again);
  await expect.poll(() => document.activeElement).toBe(screen.getByRole("button"));
});

test("a press beside everything takes the focus away, and it stays away", async () => {
  const user = userEvent.setup();
  render(
    <Page>
      <Doing then={(done) => (finish = done)} />
    </Page>,
  );
  await user.tab();
  await user.keyboard("{Enter}");
  await user.click(screen.getByText("Beside everything"));
  finish();
  expect(await screen.findByText("It is kept.")).toBeVisible();
  expect(document.body).toHaveFocus();
});

test("a form that opens begins at its first field", async () => {
  render(
    <Form begin onSend={() => {}}>
      <TextField label="First" value="" onChange={() => {}} />
      <TextField label="Second" value="" onChange={() => {}} />
    </Form>,
  );
  expect(screen.getByLabelText("First")).toHaveFocus();
});

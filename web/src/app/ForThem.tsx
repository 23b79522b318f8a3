import { useState } from "react";
import { problemText, type Schemas } from "../api/client";
import { useNews, useReadNews } from "../features/session/queries";
import { Button, Failure } from "../ui/basics";
import { Drawer } from "../ui/Drawer";

const line = "border-b border-hairline bg-paper px-4 py-1.5 print:hidden";

/** What is said on every page to some people only: to readers how far they go, to owners once what an upgrade changed. */
export function ForThem({ role }: { role: Schemas["Session"]["role"] }) {
  if (role === "reader")
    return (
      <p role="note" className={`${line} text-muted`} data-reader>
        As a reader you see everything and change nothing.
      </p>
    );
  return role === "owner" ? <News /> : null;
}

function News() {
  const news = useNews(true);
  const read = useReadNews();
  const [open, setOpen] = useState(false);
  if (!news.data || news.data.changed.length === 0) return null;
  return (
    <div role="note" className={`${line} flex flex-wrap items-center gap-x-3 gap-y-1`} data-news>
      <p>
        <span className="font-semibold">Thermaxis {news.data.version}</span> was installed here.
      </p>
      <Button onClick={() => setOpen(true)}>What changed</Button>
      {read.error && <Failure text={problemText(read.error)} />}
      <Drawer open={open} onClose={() => setOpen(false)} title={`What changed up to ${news.data.version}`}>
        <ul className="list-disc space-y-3 pl-5">
          {news.data.changed.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
        <div className="mt-5">
          <Button
            primary
            onClick={() => {
              // Closed first: the focus goes back to the line, and from there on with the line.
              setOpen(false);
              read.mutate();
            }}
          >
            I have read it
          </Button>
        </div>
      </Drawer>
    </div>
  );
}

import { useCallback, useState } from "react";
import { Link, useRouteError } from "react-router";
import { answers, useConnected } from "../lib/connection";
import { Button, Failure, StageTitle } from "../ui/basics";

/** What stands where a stage could not be shown; everything around it goes on. */
export function RouteFailure() {
  const error = useRouteError();
  const said = error instanceof Error ? error.message : String(error);
  const unloaded = /import|module|fetch/i.test(said);
  const [still, setStill] = useState(false);
  // A browser keeps a piece of code that failed to come as failed: only a page that is loaded again asks for it again. It
  // is not loaded again before the server answers, or there would be no page at all.
  const again = useCallback(
    () => void answers().then((there) => (there ? location.reload() : setStill(true))),
    [],
  );
  useConnected(useCallback(() => unloaded && again(), [unloaded, again]));
  return (
    <>
      <StageTitle title="This page cannot be shown" note="Nothing that was kept is touched." />
      <Failure
        text={
          unloaded
            ? `A part of the page did not load: the connection is gone, or there is a newer version of it.${still ? " The server does not answer yet." : ""}`
            : said
        }
      />
      <p className="mt-3 flex flex-wrap gap-3">
        <Button primary onClick={again}>
          {unloaded ? "Try again" : "Load the page again"}
        </Button>
        <Link to="/" className="self-center underline underline-offset-2">
          To the workshop
        </Link>
      </p>
    </>
  );
}

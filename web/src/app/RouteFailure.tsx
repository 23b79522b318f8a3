import { Link, useRouteError } from "react-router";
import { Button, Failure, StageTitle } from "../ui/basics";

/** What stands where a stage could not be shown; everything around it goes on. */
export function RouteFailure() {
  const error = useRouteError();
  const said = error instanceof Error ? error.message : String(error);
  // A page that is older than the server asks for files that are gone.
  const gone = /import|module|fetch/i.test(said);
  return (
    <>
      <StageTitle title="This page cannot be shown" note="Nothing that was kept is touched." />
      <Failure text={gone ? "A part of the page did not load: there may be a newer version of it." : said} />
      <p className="mt-3 flex flex-wrap gap-3">
        <Button primary onClick={() => location.reload()}>
          Load the page again
        </Button>
        <Link to="/" className="self-center underline underline-offset-2">
          To the workshop
        </Link>
      </p>
    </>
  );
}

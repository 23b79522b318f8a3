import { useCallback, useEffect } from "react";
import { Link, useLocation, useNavigate, useRouteError } from "react-router";
import { Button, Failure, StageTitle } from "../ui/basics";

/** What stands where a stage could not be shown; everything around it goes on. */
export function RouteFailure() {
  const error = useRouteError();
  const location = useLocation();
  const navigate = useNavigate();
  const said = error instanceof Error ? error.message : String(error);
  const unloaded = /import|module|fetch/i.test(said);
  const again = useCallback(() => navigate(location, { replace: true }), [navigate, location]);
  useEffect(() => {
    if (!unloaded) return;
    addEventListener("online", again);
    return () => removeEventListener("online", again);
  }, [unloaded, again]);
  return (
    <>
      <StageTitle title="This page cannot be shown" note="Nothing that was kept is touched." />
      <Failure
        text={
          unloaded
            ? "A part of the page did not load: the connection is gone, or there is a newer version of it."
            : said
        }
      />
      <p className="mt-3 flex flex-wrap gap-3">
        {unloaded && (
          <Button primary onClick={again}>
            Try again
          </Button>
        )}
        <Button primary={!unloaded} onClick={() => window.location.reload()}>
          Load the page again
        </Button>
        <Link to="/" className="self-center underline underline-offset-2">
          To the workshop
        </Link>
      </p>
    </>
  );
}

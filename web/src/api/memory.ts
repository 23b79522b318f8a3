// What the page remembers of answers.
import { QueryCache } from "@tanstack/react-query";
import { isUnreachable } from "./client";

/** What is on the page stays where nobody answers: that it is of before stands at its top. */
export const newMemory = () =>
  new QueryCache({
    onError: (error, query) => {
      if (isUnreachable(error) && query.state.data !== undefined)
        query.setState({ status: "success", error: null });
    },
  });

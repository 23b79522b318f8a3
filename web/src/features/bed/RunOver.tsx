import { LinkButton, StateWord } from "../../ui/basics";
import type { Run } from "./queries";
import { wordStates } from "./Worked";

const words: Record<string, string> = {
  bedded: "bedded in",
  partly: "partly: not enough brakings ended in the window",
  overheated: "overheated: over the top of the window",
};

/** What a run came to. */
export function RunOver({ run, machineId }: { run: Run; machineId: number }) {
  return (
    <div data-over={run.word}>
      <p className="text-xl font-bold">The run is over</p>
      <ul className="mt-2 text-lg">
        {Object.entries(run.words).map(([axle, word]) => (
          <li key={axle}>
            {axle}: <StateWord state={wordStates[word] ?? "close"}>{words[word] ?? word}</StateWord>
          </li>
        ))}
      </ul>
      <p className="mt-2">
        By what was tapped and read. Look at the rings once they are cold: even grey is good, patches, blue
        spots and streaks are not.
      </p>
      <p className="mt-4 flex flex-wrap gap-2">
        <LinkButton primary to={`/m/${machineId}/bed`}>
          Look at the rings
        </LinkButton>
        <LinkButton to={`/m/${machineId}/life`}>See when the pads are due</LinkButton>
      </p>
    </div>
  );
}

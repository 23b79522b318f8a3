import type { Schemas } from "../../api/client";
import { Button } from "../../ui/basics";
import { Cell, Row, RowHead, Table, unseen } from "../../ui/Table";
import { momentText } from "./Shown";

export const reaches = [
  ["read", "look, and change nothing"],
  ["readings", "write readings down"],
  ["all", "all that its person may"],
] as const;

type Props = {
  keys: Schemas["KeyOut"][];
  people?: boolean;
  pending: boolean;
  onWithdraw: (id: number) => void;
};

/** Keys that are in use, and the way to end each. */
export function KeyTable({ keys, people, pending, onWithdraw }: Props) {
  const heads = ["For", ...(people ? ["Whose"] : []), "May", "Last used", unseen("Withdraw")];
  return (
    <Table label="Keys" width="max-w-2xl" heads={heads}>
      <tbody>
        {keys.map((row) => (
          <Row key={row.id}>
            <RowHead>{row.name}</RowHead>
            {people && <Cell>{row.person}</Cell>}
            <Cell>{reaches.find(([reach]) => reach === row.reach)?.[1]}</Cell>
            <Cell className="condensed">{momentText(row.used_at)}</Cell>
            <Cell className="text-right">
              <Button small disabled={pending} onClick={() => onWithdraw(row.id)}>
                Withdraw<span className="sr-only">: {row.name}</span>
              </Button>
            </Cell>
          </Row>
        ))}
      </tbody>
    </Table>
  );
}

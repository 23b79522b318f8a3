import { Frame } from "./frame";

type Element = { length_m: number; radius_m?: number | null };

/** A circuit laid out straight: as long as it is driven, corners as humps, the tighter the higher. */
export function CircuitStrip({ elements, closed }: { elements: Element[]; closed: boolean }) {
  const box = { width: 760, height: 54, left: 4, right: 4, top: 6, bottom: 10 };
  const total = elements.reduce((sum, element) => sum + Math.max(0, element.length_m), 0) || 1;
  const ground = box.height - box.bottom;
  let at = box.left;
  const pieces = elements.map((element) => {
    const width = (Math.max(0, element.length_m) / total) * (box.width - box.left - box.right);
    const height = element.radius_m ? Math.min(34, 700 / Math.max(element.radius_m, 12)) : 0;
    const piece = { x: at, width, height };
    at += width;
    return piece;
  });
  const path = pieces
    .map(({ x, width, height }) =>
      height ? `Q${x + width / 2},${ground - 2 * height} ${x + width},${ground}` : `L${x + width},${ground}`,
    )
    .join("");
  const corners = elements.filter((element) => element.radius_m).length;
  return (
    <Frame
      box={box}
      label={`${corners} corners on ${Math.round(total)} m, ${closed ? "a lap" : "a run from rest"}`}
    >
      <path d={`M${box.left},${ground}${path}`} fill="none" stroke="var(--ink)" strokeWidth={2} />
      {pieces.map(({ x }) => (
        <line key={x} x1={x} x2={x} y1={ground - 3} y2={ground + 5} stroke="var(--ink)" />
      ))}
      <line
        x1={at}
        x2={at}
        y1={ground - 8}
        y2={ground + 5}
        stroke="var(--ink)"
        strokeWidth={closed ? 2.5 : 1}
      />
    </Frame>
  );
}

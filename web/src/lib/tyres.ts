// A tyre's size as it stands on its wall, to the radius it rolls on.

export type Tyre = { size: string; rolling_m: number; free_m: number; share: number };

// 195/50 R15 82V, 195/50ZR15, P195/50-15, 120/70 ZR 17 (58W), 180/55-17, 155 R13 (80 % where no aspect is written)
const metricSize =
  /^\s*(?:LT|P|C)?\s*(\d{2,3})\s*(?:\/\s*(\d{2,3}))?\s*(?:\/?\s*(Z?R|R\s*F|B|D|-)\s*)(\d{2}(?:[.,]5)?)\s*(?:(?:C|M\/C)\b)?\s*\(?\d{0,3}(?:\/\d{2,3})?\s*[A-Z]?\)?\s*$/i;
// 31x10.50 R15: overall diameter and width in inches.
const inchSize =
  /^\s*(?:LT)?\s*(\d{2}(?:[.,]\d{1,2})?)\s*[x×]\s*(\d{1,2}(?:[.,]\d{1,2})?)\s*(Z?R|-)\s*(\d{2})\s*(?:LT)?\s*\d{0,3}\s*[A-Z]?\s*$/i;

const inch = 0.0254;
/**
 * Rolling over free radius. A loaded tyre rolls 3.05 times its overall diameter a turn if radial, 3.02 if bias-ply or
 * belted: the standard dynamic circumference of the European tyre and rim makers' manual (UN Regulation 30, annex 6).
 */
const rolls = { radial: 3.05 / Math.PI, bias: 3.02 / Math.PI };

const plain = (text: string) => Number(text.replace(",", "."));

/** What is written on a tyre's wall, as radii in m; null for text that is no size. */
export function tyreOf(text: string): Tyre | null {
  const metric = metricSize.exec(text);
  if (metric) {
    const [, width, aspect, build, rim] = metric;
    // "195/50" alone or "195 15" names no tyre: a letter or a dash stands before the rim.
    if (!width || !build || !rim || (!aspect && build === "-")) return null;
    const share = aspect ? Number(aspect) / 100 : 0.8;
    const free = (plain(rim) * inch) / 2 + (Number(width) / 1000) * share;
    // A dash says nothing of the build; tyres sold today are radial but for a few.
    const belted = /^[BD]$/i.test(build);
    const size = aspect
      ? `${width}/${aspect} ${build === "-" ? "R" : build.toUpperCase()}${rim}`
      : `${width} ${build.toUpperCase()}${rim}`;
    return rolled(size, free, belted ? rolls.bias : rolls.radial);
  }
  const inches = inchSize.exec(text);
  if (!inches?.[1] || !inches[4]) return null;
  const free = (plain(inches[1]) * inch) / 2;
  return rolled(text.trim(), free, inches[3] === "-" ? rolls.bias : rolls.radial);
}

function rolled(size: string, free_m: number, share: number): Tyre | null {
  const sane = free_m > 0.15 && free_m < 0.8;
  return sane ? { size, free_m, share, rolling_m: free_m * share } : null;
}

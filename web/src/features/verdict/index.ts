export { VerdictStrip } from "./VerdictStrip";

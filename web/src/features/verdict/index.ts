export { VerdictStrip } from "./VerdictStrip";
export { Why } from "./Why";
export { WhyDrawer } from "./WhyDrawer";

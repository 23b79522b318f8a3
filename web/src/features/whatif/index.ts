export { KeepTried } from "./KeepTried";
export {
  fittedUnderStore,
  isTrying,
  noWhatIf,
  useSettledWhatIf,
  useWhatIf,
  type WhatIf,
  whatIfStore,
} from "./whatIf";
export { whatIfWords } from "./whatIfWords";

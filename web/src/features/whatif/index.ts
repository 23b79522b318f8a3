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
export { trailerText, whatIfWords } from "./whatIfWords";

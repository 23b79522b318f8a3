export { TrustPage } from "./TrustPage";

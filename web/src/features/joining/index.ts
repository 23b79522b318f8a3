export { JoinPage } from "./JoinPage";

export { Account } from "./Account";

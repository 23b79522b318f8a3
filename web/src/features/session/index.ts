export { Account } from "./Account";
export { SignIn } from "./SignIn";

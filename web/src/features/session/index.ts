export { SignIn, SignInAgain } from "./SignIn";

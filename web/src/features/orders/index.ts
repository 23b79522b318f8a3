export { OrderForm, Orders } from "./Orders";

// What the router shows of this feature: fetched when it is first opened.

export { AccountsPage } from './list/AccountsPage';
export { OwnAccountPage } from './own/OwnAccountPage';
export { ChoosePassword, Welcome } from './signing_in/ChoosePassword';
export { ForgottenPassword } from './signing_in/ForgottenPassword';
export { SignIn } from './signing_in/SignIn';

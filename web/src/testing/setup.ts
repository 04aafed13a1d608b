/** Every test has the register that the page is served: the contract's own copy. */

import register from "../../../server/contract/register.json";
import { type Register, useRegister } from "../api/register";

useRegister.setState({ register: register as unknown as Register, lost: false });

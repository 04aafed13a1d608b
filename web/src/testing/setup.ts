/** Every test has the register that the page is served: the contract's own copy. */

import register from "../../../server/contract/register.json";
import { watchTimers } from "./timers";
import { type Register, useRegister } from "../api/register";

watchTimers();
useRegister.setState({ register: register as unknown as Register, lost: false });

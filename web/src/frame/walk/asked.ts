/** Has somebody asked to be shown around? */
import { Shared } from "../../kit/Shared";

export const asked = new Shared(false);

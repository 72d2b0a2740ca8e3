import { HttpContextToken } from "@angular/common/http";

/** Whoever asks outlives the page and looks after what fails. */
export const LOOKED_AFTER = new HttpContextToken(() => false);

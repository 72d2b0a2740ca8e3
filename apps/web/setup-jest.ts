import { setupZonelessTestEnv } from "jest-preset-angular/setup-env/zoneless";

setupZonelessTestEnv();

// What jsdom has not: it lays nothing out, so there is nothing to scroll to.
Element.prototype.scrollIntoView = () => undefined;

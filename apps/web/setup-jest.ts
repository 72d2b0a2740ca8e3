import { setupZonelessTestEnv } from "jest-preset-angular/setup-env/zoneless";

setupZonelessTestEnv();

// What jsdom has not: it lays nothing out, so there is nothing to scroll to.
Element.prototype.scrollIntoView = () => undefined;

// jsdom knows of no screen: every question about one is answered with no.
window.matchMedia ??= (media: string): MediaQueryList =>
  Object.assign(new EventTarget(), {
    media,
    matches: false,
    onchange: null,
    addListener: () => undefined,
    removeListener: () => undefined,
  }) as MediaQueryList;

/** A finger on glass, or a hand on a mouse, wanders this much without meaning it, px. */
const WANDERS_PX = 10;
const PRESSED = "button, a[href], label, summary";

interface Press {
  readonly element: HTMLElement;
  readonly place: DOMRect;
  readonly x: number;
  readonly y: number;
}

/**
 * A field that is left by pressing a button may say what is wrong with it, and move the button away
 * between press and release: the browser then takes neither for a click. What was pressed and moved
 * by the page, not by the hand, is pressed all the same.
 * @returns takes it off again
 */
export function steadyPresses(page: Document): () => void {
  let press: Press | null = null;
  const down = (e: PointerEvent): void => {
    const element = e.button === 0 && e.target instanceof Element ? e.target.closest<HTMLElement>(PRESSED) : null;
    press = element && {
      element,
      place: element.getBoundingClientRect(),
      x: e.clientX,
      y: e.clientY,
    };
  };
  const up = (e: PointerEvent): void => {
    const was = press;
    press = null;
    if (!was?.element.isConnected || e.composedPath().includes(was.element)) return;
    const now = was.element.getBoundingClientRect();
    const slipped = now.top !== was.place.top || now.left !== was.place.left;
    const steady = Math.hypot(e.clientX - was.x, e.clientY - was.y) <= WANDERS_PX;
    if (slipped && steady) was.element.click();
  };
  const off = (): void => {
    press = null;
  };
  const heard = new AbortController();
  const options = { capture: true, passive: true, signal: heard.signal };
  page.addEventListener("pointerdown", down, options);
  page.addEventListener("pointerup", up, options);
  page.addEventListener("pointercancel", off, options);
  // Scrolled away by the hand is not slipped.
  page.addEventListener("wheel", off, options);
  return () => heard.abort();
}

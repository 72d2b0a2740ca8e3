/** A standard normal number, for the simulated stand-ins. */
export function standardNormal(): number {
  return Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random()); // prettier-ignore
}

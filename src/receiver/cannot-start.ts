/** What is wrong with a start's surroundings, in one line. */
export class CannotStart extends Error {}

/*
 * Forms that owners have already are read here, by a parser of the HTML standard. It is large and seldom needed, so it
 * comes when it is first needed: import this door dynamically.
 */
export { directContent, type Said } from './make'
export { type FormProblem, type FormReading, type ReadField, type ReadForm, readForm } from './read'
export type { ReadKind } from './kinds'

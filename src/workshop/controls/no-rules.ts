/**
 * Stands in the bundle where Element Plus imports `async-validator`, 9 KB of every first screen: forms of the workshop
 * declare no rules, since what is typed is checked by the same Zod schemas as everywhere.
 */
export default class NoRules {
  constructor() {
    throw new Error('Forms of the workshop have no rules of their own: check by a schema of core.')
  }
}

import type { AnswerRule, JsonTemplate } from '#core/connection'
import { parsedJson, pointerStep } from '#core/json'

const TELLS = /^(?:ok|success|successful|result|status|outcome|state|error|code)$/i

/**
 * How a service that says 200 to everything tells yes from no: a value at the top of the answer that is one thing where it
 * worked and another where it did not.
 *
 * @returns null where both are told apart by status, or nothing tells
 */
export function refusalIn(
  worked: { status?: number; body: string },
  refused: { status?: number; body: string },
): AnswerRule | null {
  if ((refused.status ?? 200) >= 300 || (worked.status ?? 200) >= 300) return null
  const [yes, no] = [objectIn(worked.body), objectIn(refused.body)]
  if (yes === null || no === null) return null
  for (const [key, value] of Object.entries(no)) {
    if (!TELLS.test(key) || value === null || typeof value === 'object' || value === yes[key]) continue
    if (typeof value === 'number' && typeof yes[key] !== 'number') continue
    return { at: pointerStep(key), is: value, means: 'refused' }
  }
  return null
}

function objectIn(body: string): Record<string, JsonTemplate> | null {
  const json = parsedJson(body) as JsonTemplate | undefined
  return json !== undefined && json !== null && typeof json === 'object' && !Array.isArray(json) ? json : null
}

/**
 * How an answer about several people tells what became of each: by the value that stands there of somebody who was taken.
 *
 * @param taken what it lists of them
 */
export function outcomesBy(taken: JsonTemplate): AnswerRule[] {
  if (taken === null || typeof taken !== 'object' || Array.isArray(taken)) return []
  for (const [key, value] of Object.entries(taken)) {
    if (!TELLS.test(key) || value === null || typeof value === 'object') continue
    const at = pointerStep(key)
    return [
      { at, is: value, means: 'done' },
      { at, means: 'refused' },
    ]
  }
  return []
}

import { call, Refusal } from '../core/core'

/** Reads what was typed as a temperature in °C or a humidity in percent; the core knows what can be. */
export async function readAir(field: string, kind: 'temperature' | 'humidity', typed = ''): Promise<number> {
  return (await call('units.number', { field, kind, typed })).value
}

/** The field whose temperature is asked back, since it may be in °F. */
export function askedBack(error: unknown): string {
  const fault = error instanceof Refusal && error.faults.find((each) => each.key === 'temperature.asked_back')
  return fault ? fault.field : ''
}

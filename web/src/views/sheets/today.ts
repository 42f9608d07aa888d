import { now } from '../../data/clock'
import { dayOf } from '../../words/zone'

/** The day of today as it is kept: 2006-01-02. */
export const today = (): string => dayOf(now())

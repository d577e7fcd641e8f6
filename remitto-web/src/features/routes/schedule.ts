import type { Schedule } from '../../api/types';
import { city } from '../../components/format';

const DAYS = ['MONDAY', 'TUESDAY', 'WEDNESDAY', 'THURSDAY', 'FRIDAY', 'SATURDAY', 'SUNDAY'] as const;
export type Day = (typeof DAYS)[number];
export const WEEK = DAYS;

export function dayName(day: Day): string {
  return day.charAt(0) + day.slice(1, 3).toLowerCase();
}

/** A schedule as a sentence reads it. */
export function sentence(schedule: Schedule): string {
  switch (schedule.kind) {
    case 'by-hand':
      return 'manually';
    case 'on-change':
      return 'when its data changes';
    case 'every':
      return schedule.minutes === 1 ? 'every minute' : `every ${schedule.minutes} min`;
    case 'daily':
      return `daily at ${schedule.time.slice(0, 5)} in ${city(schedule.zone)}`;
    case 'weekly':
      return `${DAYS.filter((day) => schedule.days.includes(day))
        .map(dayName)
        .join(', ')} at ${schedule.time.slice(0, 5)} in ${city(schedule.zone)}`;
    default: {
      const never: never = schedule;
      return never;
    }
  }
}

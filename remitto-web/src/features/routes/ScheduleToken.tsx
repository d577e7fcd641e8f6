import type { Schedule } from '../../api/types';
import { zones } from '../../components/here';
import { Input, Labelled, Select, Token } from '../../components/ui';
import { dayName, sentence, WEEK } from './schedule';

/** When something is due, as an editable part of a sentence. */
export function ScheduleToken({
  schedule,
  onChange,
}: {
  schedule: Schedule;
  onChange: (schedule: Schedule) => void;
}) {
  const kinds: [Schedule['kind'], string][] = [
    ['by-hand', 'manually'],
    ['on-change', 'when its data changes'],
    ['every', 'every few minutes'],
    ['daily', 'daily'],
    ['weekly', 'on days of the week'],
  ];
  const time = 'time' in schedule ? schedule.time.slice(0, 5) : '06:00';
  const choose = (kind: Schedule['kind']) => {
    const { zone } = schedule;
    if (kind === 'every') onChange({ kind, minutes: 20, zone });
    else if (kind === 'daily') onChange({ kind, time, zone });
    else if (kind === 'weekly') onChange({ kind, days: ['MONDAY'], time, zone });
    else if (kind === 'on-change') onChange({ kind, zone });
    else onChange({ kind: 'by-hand', zone });
  };
  return (
    <Token label="When it departs" text={sentence(schedule)}>
      <Labelled label="Departs">
        <Select value={schedule.kind} onChange={(e) => choose(e.target.value as Schedule['kind'])}>
          {kinds.map(([kind, word]) => (
            <option key={kind} value={kind}>
              {word}
            </option>
          ))}
        </Select>
      </Labelled>
      {schedule.kind === 'every' && (
        <Labelled label="Minutes">
          <Input
            type="number"
            min={1}
            max={1440}
            value={schedule.minutes}
            onChange={(e) => onChange({ ...schedule, minutes: Number(e.target.value) })}
          />
        </Labelled>
      )}
      {(schedule.kind === 'daily' || schedule.kind === 'weekly') && (
        <Labelled label="At">
          <Input type="time" value={time} onChange={(e) => onChange({ ...schedule, time: e.target.value })} />
        </Labelled>
      )}
      {schedule.kind === 'weekly' && (
        <fieldset className="m-0 flex flex-wrap gap-2 border-0 p-0">
          <legend className="text-soft mb-1">Days</legend>
          {WEEK.map((day) => (
            <label key={day} className="flex items-center gap-1">
              <input
                type="checkbox"
                checked={schedule.days.includes(day)}
                onChange={() =>
                  onChange({
                    ...schedule,
                    days: schedule.days.includes(day)
                      ? schedule.days.filter((one) => one !== day)
                      : [...schedule.days, day],
                  })
                }
              />
              {dayName(day)}
            </label>
          ))}
        </fieldset>
      )}
      {schedule.kind === 'on-change' ? (
        <p className="text-soft m-0 max-w-[260px]">
          Checked every minute. The dataset’s page shows how changes are detected.
        </p>
      ) : (
        <Labelled label="Time zone">
          <Input
            list="zones"
            value={schedule.zone}
            onChange={(e) => onChange({ ...schedule, zone: e.target.value })}
          />
        </Labelled>
      )}
      <datalist id="zones">
        {zones().map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
    </Token>
  );
}

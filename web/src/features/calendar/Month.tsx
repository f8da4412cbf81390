'use client';
/** A month in which days that have something can be chosen. */
import { plural } from '@ovrel/core/plural';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { sayDate } from '../words.ts';
import { monthAfter, monthOf, weeksOf } from './month.ts';

interface Props {
  /** How many of what fall on each day. */
  readonly counts: ReadonlyMap<string, number>;
  readonly what: string;
  readonly chosen: string | undefined;
  readonly onChoose: (day: string) => void;
}

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const monthName = new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' });

export function Month({ counts, what, chosen, onChoose }: Props): React.ReactNode {
  const last = [...counts.keys()].sort().at(-1);
  const [turned, setTurned] = useState<string>();
  const [today] = useState(() => monthOf(Date.now()));
  const reached = chosen ?? last;
  const month = turned ?? (reached === undefined ? today : monthOf(reached));
  const name = monthName.format(new Date(`${month}-01T00:00:00Z`));
  return (
    <div className="ov-month">
      <div className="ov-month-head">
        <Button
          size="sm"
          variant="outline-secondary"
          aria-label="Month before"
          onClick={() => setTurned(monthAfter(month, -1))}
        >
          ‹
        </Button>
        <strong aria-live="polite">{name}</strong>
        <Button
          size="sm"
          variant="outline-secondary"
          aria-label="Month after"
          onClick={() => setTurned(monthAfter(month, 1))}
        >
          ›
        </Button>
      </div>
      <table aria-label={name}>
        <thead>
          <tr>
            {weekdays.map((day) => (
              <th key={day}>{day}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeksOf(month).map((week, k) => (
            <tr key={k}>
              {week.map((day, weekday) => (
                <td key={weekday}>
                  {day !== null && (
                    <Day
                      day={day}
                      count={counts.get(day) ?? 0}
                      what={what}
                      isChosen={day === chosen}
                      onChoose={onChoose}
                    />
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface DayProps {
  readonly day: string;
  readonly count: number;
  readonly what: string;
  readonly isChosen: boolean;
  readonly onChoose: (day: string) => void;
}

function Day({ day, count, what, isChosen, onChoose }: DayProps): React.ReactNode {
  const number = Number(day.slice(8));
  if (count === 0) return <span className="ov-quiet">{number}</span>;
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      aria-label={`${sayDate(day)}: ${plural(count, what)}`}
      onClick={() => onChoose(day)}
    >
      {number}
      <small>{count}</small>
    </button>
  );
}

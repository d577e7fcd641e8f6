interface Bar {
  value: number;
  title: string;
  bad?: boolean;
}

interface Props {
  /** What the bars tell; their values follow it for those who cannot see them. */
  label: string;
  bars: Bar[];
  /** What a full bar stands for; the greatest value where it is absent. */
  most?: number;
  /** For many bars in little room. */
  thin?: boolean;
}

/** A row of small bars on one scale from 0. */
export function Bars({ label, bars, most, thin = false }: Props) {
  const full = most ?? Math.max(1, ...bars.map((bar) => bar.value));
  return (
    <span
      role="img"
      aria-label={`${label}: ${bars.map((bar) => bar.title).join('; ')}`}
      className="border-hairline inline-flex h-7 items-end gap-px border-b"
    >
      {bars.map((bar, i) => (
        <span
          key={i}
          title={bar.title}
          className={`${thin ? 'w-[3px]' : 'w-[6px]'} ${bar.bad ? 'bg-removed' : 'bg-deep'} ${bar.value === 0 ? 'opacity-25' : ''}`}
          style={{ height: `${Math.max(bar.value === 0 ? 1 : 2, (bar.value / full) * 27)}px` }}
        />
      ))}
    </span>
  );
}

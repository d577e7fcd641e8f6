import { render, screen } from '@testing-library/react';
import { useRef } from 'react';
import { describe, expect, it } from 'vitest';
import { focusRule, walk } from './ruleKeys';

function List({ names }: { names: string[] }) {
  const list = useRef<HTMLUListElement>(null);
  return (
    <>
      <input
        aria-label="Find"
        onKeyDown={(e) => e.key === 'ArrowDown' && focusRule(list.current, names[0])}
      />
      <ul ref={list}>
        {names.map((name) => (
          <li key={name}>
            <button data-rule={name} onKeyDown={(e) => walk(e, e.currentTarget.closest('ul'))}>
              {name}
            </button>
            <input aria-label={`about ${name}`} />
          </li>
        ))}
      </ul>
    </>
  );
}

function press(key: string): boolean {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  document.activeElement?.dispatchEvent(event);
  return event.defaultPrevented;
}

describe('keys in the list of rules', () => {
  it('go from rule to rule and stop at the ends', () => {
    render(<List names={['email', 'mobile', 'port']} />);
    screen.getByLabelText('Find').focus();
    press('ArrowDown');
    expect(document.activeElement).toHaveTextContent('email');
    press('ArrowUp');
    expect(document.activeElement).toHaveTextContent('email');
    press('ArrowDown');
    press('ArrowDown');
    press('ArrowDown');
    expect(document.activeElement).toHaveTextContent('port');
    press('Home');
    expect(document.activeElement).toHaveTextContent('email');
    press('End');
    expect(document.activeElement).toHaveTextContent('port');
  });

  it('are left alone inside an editor', () => {
    render(<List names={['email', 'mobile']} />);
    const inside = screen.getByLabelText('about email');
    inside.focus();
    expect(press('ArrowDown')).toBe(false);
    expect(document.activeElement).toBe(inside);
  });
});

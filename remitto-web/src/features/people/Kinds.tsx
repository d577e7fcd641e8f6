import { NavLink } from 'react-router';
import { kin } from './entityTypes';

/** From people to companies and back. */
export function Kinds() {
  return (
    <nav aria-label="Entity type" className="mb-3 flex gap-1">
      {(['PERSON', 'COMPANY'] as const).map((entityType) => (
        <NavLink
          key={entityType}
          to={kin(entityType).base}
          end
          className={({ isActive }) =>
            `rounded-button px-3 py-1.5 font-medium no-underline ${isActive ? 'bg-board text-board-ink' : 'text-deep hover:bg-sunk'}`
          }
        >
          {kin(entityType).title}
        </NavLink>
      ))}
    </nav>
  );
}

import { useLocation } from 'react-router';
import type { EntityType } from '../../api/types';

export interface Kin {
  entityType: EntityType;
  base: string;
  title: string;
  one: string;
  many: string;
}

const PEOPLE: Kin = { entityType: 'PERSON', base: '/people', title: 'People', one: 'person', many: 'people' };
const COMPANIES: Kin = {
  entityType: 'COMPANY',
  base: '/companies',
  title: 'Companies',
  one: 'company',
  many: 'companies',
};

export function kin(entityType: EntityType): Kin {
  return entityType === 'PERSON' ? PEOPLE : COMPANIES;
}

/** Whom the page is about, by its address. */
export function useKin(): Kin {
  const { pathname } = useLocation();
  return pathname.startsWith('/companies') ? COMPANIES : PEOPLE;
}

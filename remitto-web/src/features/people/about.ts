import { useLocation } from 'react-router';
import type { About } from '../../api/types';

export interface Kin {
  about: About;
  base: string;
  title: string;
  one: string;
  many: string;
}

const PEOPLE: Kin = { about: 'PERSON', base: '/people', title: 'People', one: 'person', many: 'people' };
const COMPANIES: Kin = {
  about: 'COMPANY',
  base: '/companies',
  title: 'Companies',
  one: 'company',
  many: 'companies',
};

export function kin(about: About): Kin {
  return about === 'PERSON' ? PEOPLE : COMPANIES;
}

/** Whom the page is about, by its address. */
export function useKin(): Kin {
  const { pathname } = useLocation();
  return pathname.startsWith('/companies') ? COMPANIES : PEOPLE;
}

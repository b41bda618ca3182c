import type { Role, SignedIn } from '../authentication';

export interface DemoPerson {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly projects: readonly string[];
}

export const DEMO_PROJECTS = [
  { id: 'ferry', name: 'Lantern ferry' },
  { id: 'heron', name: 'Night heron' },
] as const;

/** Made-up people of the made-up studio. */
export const DEMO_PEOPLE: readonly DemoPerson[] = [
  {
    id: 'maren',
    name: 'Maren Holt',
    email: 'maren@studio.example',
    role: 'author',
    projects: ['ferry'],
  },
  {
    id: 'tove',
    name: 'Tove Lindqvist',
    email: 'tove@studio.example',
    role: 'artist',
    projects: ['ferry'],
  },
  {
    id: 'ilo',
    name: 'Ilo Brandt',
    email: 'ilo@studio.example',
    role: 'artist',
    projects: ['heron'],
  },
  {
    id: 'sefa',
    name: 'Sefa Quist',
    email: 'sefa@studio.example',
    role: 'librarian',
    projects: ['ferry', 'heron'],
  },
];

/** One of them, as if signed in. */
export function demoPerson(id: string): SignedIn {
  const found = DEMO_PEOPLE.find((each) => each.id === id);
  if (!found) throw new Error(`Invariant broken: no demo person ${id}`);
  const { name, email, role } = found;
  return { id, name, email, role };
}

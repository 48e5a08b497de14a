import { useQuery } from '@tanstack/react-query';
import { useParams } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';

export type Role = Schema['Member']['role'];

/** What each role may, the least first. */
export const ROLES: { role: Role; label: string; about: string }[] = [
  { role: 'reader', label: 'reader', about: 'looks and takes out; personal data stays covered' },
  { role: 'editor', label: 'editor', about: 'collects, sweeps, builds, lets findings stand, marks fixes' },
  { role: 'owner', label: 'owner', about: 'changes rules, settings and people, and deletes' },
];

const rank = (role: Role | undefined) => ROLES.findIndex((one) => one.role === role);

/** Who is at work. */
export const useSession = () => useQuery(queries.session()).data;

/** Tells of roles whether whoever is at work may do what is for them; without a role, everybody may. */
export function useReach(workspace?: string) {
  const { workspace: open = '' } = useParams();
  const session = useSession();
  return (least?: Role) =>
    !least || (session !== undefined && (session.alone || rank(session.roles[workspace ?? open]) >= rank(least)));
}

/** Whether whoever is at work may do here what is for a role. */
export const useMay = (least: Role, workspace?: string) => useReach(workspace)(least);

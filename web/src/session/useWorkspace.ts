import { useOutletContext } from 'react-router';
import type { Schema } from '../api/client';

/** The workspace that is open. */
export const useWorkspace = () => useOutletContext<Schema['Workspace']>();

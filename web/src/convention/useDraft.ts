import { useCallback, useEffect, useState } from 'react';
import type { ConventionDocument } from './document';

interface Kept {
  base: number;
  document: ConventionDocument;
}

/** The rules as they are being changed. They stay in this browser until they are saved, whatever happens to the page. */
export function useDraft(workspace: string, version: number, saved: ConventionDocument) {
  const key = `draft ${workspace}`;
  const [kept, setKept] = useState<Kept>(() => read(key) ?? { base: version, document: saved });
  const changed = JSON.stringify(kept.document) !== JSON.stringify(saved) || kept.base !== version;

  useEffect(() => {
    if (changed) {
      localStorage.setItem(key, JSON.stringify(kept));
    } else {
      localStorage.removeItem(key);
    }
  }, [key, kept, changed]);

  const change = useCallback(
    (document: ConventionDocument) => setKept((before) => ({ base: before.base, document })),
    [],
  );
  const restart = useCallback((base: number, document: ConventionDocument) => setKept({ base, document }), []);
  const forget = useCallback(() => localStorage.removeItem(key), [key]);
  return { ...kept, changed, change, restart, forget };
}

/** Begins a draft elsewhere, as learning does. */
export function keepDraft(workspace: string, base: number, document: ConventionDocument) {
  localStorage.setItem(`draft ${workspace}`, JSON.stringify({ base, document }));
}

/** The draft that is under way, if there is one. */
export const draftOf = (workspace: string) => read(`draft ${workspace}`);

function read(key: string): Kept | undefined {
  try {
    const kept: Kept = JSON.parse(localStorage.getItem(key) ?? 'null');
    return Array.isArray(kept?.document?.roles) ? kept : undefined;
  } catch {
    return undefined;
  }
}

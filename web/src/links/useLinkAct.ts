import { acts, type LinkActWish } from '../api/acts';
import { useAct } from '../api/useAct';
import { counted } from '../parts/format';
import { offer } from '../parts/offer';

const DONE: Record<LinkActWish['act'], string> = {
  exclude: 'left out of sweeps',
  include: 'swept again',
  owner: 'given their owner',
  label: 'labelled',
  unlabel: 'freed of the label',
  delete: 'deleted',
};

/** Does something to many links, says to how many, and offers to undo it. */
export function useLinkAct(workspace: string, list: Record<string, string>) {
  const undo = useAct(workspace, (id: number) => acts.undoAct(workspace, id));
  return useAct(workspace, async (wish: LinkActWish) => {
    const done = await acts.actOnLinks(workspace, list, wish);
    offer(`${counted(done.links, 'link')} ${DONE[done.act]}.`, 'Undo', () => undo.mutate(done.id));
    return done;
  });
}

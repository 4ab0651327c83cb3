/** Changes of a project's sounds. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BeatsSaid } from '../../core';
import { call } from './http';
import type { ProjectView } from './views';

/** What can be changed of a sound. */
export interface SoundPart {
  readonly name?: string;
  readonly removed?: boolean;
  readonly beats?: BeatsSaid;
}
/** Changes a sound: shown at once, and as the server has it afterwards. */
export function useChangeSound(project: string) {
  const queries = useQueryClient(),
    key = ['project', project];
  const { mutateAsync } = useMutation({
    scope: { id: `sounds ${project}` },
    mutationFn: ({ id, ...part }: SoundPart & { readonly id: string }) =>
      call('PATCH', `/api/sounds/${id}`, part),
    async onMutate({ id, name, removed, beats }) {
      await queries.cancelQueries({ queryKey: key });
      queries.setQueryData<ProjectView>(key, (p) => {
        const left = removed ? p?.sounds.filter((s) => s.id !== id) : p?.sounds;
        const changed = { ...(name && { name }), ...(beats && { said: beats }) };
        return p && { ...p, sounds: left!.map((s) => (s.id === id ? { ...s, ...changed } : s)) };
      });
    },
    onSettled: () => queries.invalidateQueries({ queryKey: key }),
  });
  return (id: string, part: SoundPart): Promise<unknown> => mutateAsync({ id, ...part });
}

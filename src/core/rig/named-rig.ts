import { z } from 'zod';
import { RigId } from '../base/ids';
import { Rig } from './rig';

/** A rig with a name, to begin other lessons with. */
export const NamedRigView = z.object({
  id: RigId,
  name: z.string(),
  rig: Rig,
  /** New lessons begin with it. */
  isDefault: z.boolean(),
});
export type NamedRigView = z.infer<typeof NamedRigView>;

export const RigName = z.string().trim().min(1, 'a rig needs a name').max(100);
export const NamedRigInput = z.object({ name: RigName, rig: Rig });
export const NamedRigChange = z
  .object({ name: RigName, rig: Rig, isDefault: z.boolean(), deleted: z.boolean() })
  .partial()
  .refine((change) => Object.keys(change).length > 0, 'nothing to change was given');

/** A name that is not taken yet, made of one that may be: "Lesson", "Lesson 2", "Lesson 3". */
export function freeName(wanted: string, taken: readonly string[]): string {
  const base = wanted.replace(/ \d+$/, '');
  const isTaken = (name: string) => taken.some((other) => other.toLowerCase() === name.toLowerCase());
  if (!isTaken(wanted)) return wanted;
  for (let n = 2; ; n++) if (!isTaken(`${base} ${n}`)) return `${base} ${n}`;
}

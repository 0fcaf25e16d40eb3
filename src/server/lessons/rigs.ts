import type { z } from 'zod';
import { newRigId, type RigId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { NamedRigChange, NamedRigInput, NamedRigView } from '@/core/rig/named-rig';
import { FIRST_RIG } from '@/core/rig/purposes';
import type { Rig } from '@/core/rig/rig';
import { NamedRig } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { found } from '../http/route';

const view = ({ id, name, rig, isDefault }: NamedRig): NamedRigView => ({
  id,
  name,
  rig,
  isDefault,
});

/** The named rigs, by name. */
export async function listRigs(): Promise<NamedRigView[]> {
  const em = await unitOfWork();
  return (await em.find(NamedRig, { deletedAt: null }, { orderBy: { name: 'asc' } })).map(view);
}

/** @throws {ProblemError} `conflict` when another rig has this name */
async function keepNamesApart(em: UnitOfWork, name: string, own: RigId): Promise<void> {
  const all = await em.find(NamedRig, { deletedAt: null });
  if (!all.some((each) => each.id !== own && each.name.toLowerCase() === name.toLowerCase())) return;
  throw new ProblemError({
    code: 'conflict',
    message: `There is a rig called “${name}” already.`,
    hint: 'Give it another name.',
    field: 'name',
  });
}

export async function createRig({ name, rig }: z.infer<typeof NamedRigInput>): Promise<NamedRigView> {
  const em = await unitOfWork();
  const id = newRigId();
  await keepNamesApart(em, name, id);
  const row = em.create(NamedRig, { id, name, rig, isDefault: false });
  await em.flush();
  return view(row);
}

/** Deleting only hides, so that it can be undone. */
export async function changeRig(id: RigId, change: z.infer<typeof NamedRigChange>): Promise<NamedRigView> {
  const em = await unitOfWork();
  return em.transactional(async (tx) => {
    const row = found(await tx.findOne(NamedRig, { id }), 'rig');
    if (change.name !== undefined) {
      await keepNamesApart(tx as UnitOfWork, change.name, id);
      row.name = change.name;
    }
    if (change.rig !== undefined) row.rig = change.rig;
    if (change.deleted !== undefined) {
      row.deletedAt = change.deleted ? new Date() : null;
      if (change.deleted) row.isDefault = false;
    }
    if (change.isDefault !== undefined) {
      const others = { isDefault: true, id: { $ne: id } };
      if (change.isDefault) await tx.nativeUpdate(NamedRig, others, { isDefault: false });
      row.isDefault = change.isDefault;
    }
    return view(row);
  });
}

/** What a new lesson begins with: the default rig, or without one what a new studio begins with. Never silently another lesson's. */
export async function rigToBeginWith(em: UnitOfWork): Promise<Rig> {
  const named = await em.findOne(NamedRig, { isDefault: true, deletedAt: null });
  return named ? named.rig : FIRST_RIG;
}

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { readJsonFile } from '@/core/base/json-file';
import { ProblemError } from '@/core/base/problem';
import { DESTINATIONS, Destination } from '@/core/destination/destination';

const KEPT = 'own-destinations';

export type KnownDestinations = {
  all: readonly Destination[];
  isOwn: (id: string) => boolean;
  /** Adds a place from its file; one of the same id is replaced. @throws {ProblemError} saying what is wrong with the file */
  add: (file: File) => Promise<Destination>;
  remove: (id: string) => void;
};

/** The places that ship and those that somebody has added in this browser. */
export function useDestinations(): KnownDestinations {
  const [own, setOwn] = useState<Destination[]>([]);
  useEffect(() => {
    const kept = z.array(Destination).safeParse(JSON.parse(localStorage.getItem(KEPT) ?? '[]'));
    if (kept.success) setOwn(kept.data);
  }, []);
  const keep = (next: Destination[]) => {
    localStorage.setItem(KEPT, JSON.stringify(next));
    setOwn(next);
  };
  return {
    all: [...DESTINATIONS, ...own],
    isOwn: (id) => own.some((each) => each.id === id),
    add: async (file) => {
      const added = parsed(await file.text(), file.name);
      keep([...own.filter(({ id }) => id !== added.id), added]);
      return added;
    },
    remove: (id) => keep(own.filter((each) => each.id !== id)),
  };
}

function parsed(text: string, name: string): Destination {
  const hint = 'Save a place as a file here to see what belongs into it, change that, and add it.';
  const read = readJsonFile(Destination, text, name, hint);
  if (DESTINATIONS.some(({ id }) => id === read.id))
    throw new ProblemError({
      code: 'bad-input',
      message: `${name}: a place that ships has the id “${read.id}” already.`,
      hint: 'Give yours an id of its own.',
    });
  return read;
}

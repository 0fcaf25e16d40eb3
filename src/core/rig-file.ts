import { z } from 'zod';
import { NamedRigInput, RigName } from './named-rig';
import { ProblemError } from './problem';
import { type Rig, RigDocument } from './rig';

/** A rig as a file: its name and the document. */
const RigFile = z.object({ name: RigName, rig: RigDocument });

/** The JSON Schema (draft 2020-12) of a rig's file, as this version writes it. */
export const rigJsonSchema = () => ({
  title: 'A rig: a named, complete set of recording choices',
  ...z.toJSONSchema(RigFile),
});

export const rigFileText = (name: string, rig: Rig): string => `${JSON.stringify({ name, rig }, null, 2)}\n`;

/**
 * Reads a rig's file of any version.
 * @param fileName for the message
 * @throws {ProblemError} `bad-input`, with the place in the file and what is wrong there
 */
export function readRigFile(text: string, fileName: string): { name: string; rig: Rig } {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new ProblemError({
      code: 'bad-input',
      message: `${fileName} is not JSON.`,
      hint: 'Save a rig as a file here, change it, and add that.',
    });
  }
  const read = NamedRigInput.safeParse(json);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new ProblemError({
    code: 'bad-input',
    message: `${fileName}: ${issue?.path.join('.') || 'it'} ${issue?.message ?? 'is not what was expected'}.`,
    hint: 'The schema of a rig’s file is at /api/rigs/schema.',
    field: issue?.path.join('.'),
  });
}

import { z } from 'zod';
import { readJsonFile } from '../base/json-file';
import { NamedRigInput, RigName } from './named-rig';
import { type Rig, RigDocument } from './rig';

/** A rig as a file: its name and the document. */
const RigFile = z.object({ name: RigName, rig: RigDocument });

/** The JSON Schema (draft 2020-12) of a rig's file, as this version writes it. */
export const rigJsonSchema = () => ({
  title: 'A rig: a named, complete set of recording choices',
  ...z.toJSONSchema(RigFile),
});

export const rigFileText = (name: string, rig: Rig): string => `${JSON.stringify({ name, rig }, null, 2)}\n`;

/** Reads a rig's file of any version. @throws {ProblemError} `bad-input`, saying what is wrong with it */
export const readRigFile = (text: string, fileName: string): { name: string; rig: Rig } =>
  readJsonFile(
    NamedRigInput,
    text,
    fileName,
    'Save a rig as a file here, change it, and take that. The schema of such a file is at /api/rigs/schema.',
  );

/** From any version of a cut's document to the present one. Steps from version to version are never changed once they have landed. */

type Fields = Record<string, unknown>;
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Version 1 kept an unnamed step under the name that its place gave it once. */
const GIVEN_TITLE = /^(Step \d+|The whole take)$/;

/** In version 2 an unnamed step has no title, and the camera has its chroma key in every layout. */
function toTwo(cut: Fields): Fields {
  const steps = Array.isArray(cut.steps) ? cut.steps : [];
  return {
    ...cut,
    version: 2,
    steps: steps.map((step: unknown) => {
      if (!isFields(step)) return step;
      const { title, layout } = step;
      const own = isFields(layout) && (layout.kind === 'camera' || layout.kind === 'side-by-side');
      return {
        ...step,
        title: typeof title === 'string' && GIVEN_TITLE.test(title) ? '' : title,
        layout: own ? { ...layout, key: null } : layout,
      };
    }),
  };
}

/** In version 3 a step has a note, a speed, zooms, covers, looks of its pictures, and says how it begins; marks can be changed. */
function toThree(cut: Fields): Fields {
  const steps = Array.isArray(cut.steps) ? cut.steps : [];
  const asRecorded = { brightness: 1, contrast: 1, saturation: 1 };
  const added = {
    ...{ note: '', speed: 1, zooms: [], covers: [], entry: null },
    looks: { screen: asRecorded, camera: asRecorded },
  };
  return {
    ...cut,
    version: 3,
    marks: [],
    steps: steps.map((step: unknown) => (isFields(step) ? { ...step, ...added } : step)),
  };
}

/** In version 4 the gain of each sound can move within a step. */
function toFour(cut: Fields): Fields {
  const steps = Array.isArray(cut.steps) ? cut.steps : [];
  const envelopes = { voice: [], appSound: [] };
  return {
    ...cut,
    version: 4,
    steps: steps.map((step: unknown) => (isFields(step) ? { ...step, envelopes } : step)),
  };
}

/** @param document of any version; what is no cut at all is left for the schema to refuse */
export function upgradeCut(document: unknown): unknown {
  if (!isFields(document)) return document;
  if (document.version === 1) return upgradeCut(toTwo(document));
  if (document.version === 2) return upgradeCut(toThree(document));
  return document.version === 3 ? toFour(document) : document;
}

import { JsonType, type Platform, p } from '@mikro-orm/core';
import type { z } from 'zod';

/**
 * The property of an entity for a column with a document that is checked, and brought to its present version, wherever it is read: no
 * reader can forget it, and a row of an older release looks like one of today. A row that only was read is not written again.
 * Reading throws a `ZodError` where a row holds what no release has written.
 */
export function parsed<Document extends z.ZodType>(document: Document) {
  // A class each: the ORM copies what an instance holds, and a copied schema parses nothing.
  class ParsedJson extends JsonType {
    override convertToJSValue(value: unknown, platform: Platform): unknown {
      const read: unknown = super.convertToJSValue(value, platform);
      return read === null || read === undefined ? read : document.parse(read);
    }
  }
  return p.type(ParsedJson).$type<z.infer<Document>>();
}

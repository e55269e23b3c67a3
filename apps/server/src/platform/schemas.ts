/** Schemas of the core in the OpenAPI document: what travels is described once. */
import type { ApiPropertyOptions } from '@nestjs/swagger';
import { apiSchemas, type ApiSchema } from '@zakuska/core';

const uri = (name: string): string => `#/components/schemas/${name}`;

/** All schemas of the core, as components of the document. */
export const coreSchemas = (): Record<string, object> => apiSchemas(uri);
/** A property that is one of them. */
export const ofCore = (name: ApiSchema, description?: string): ApiPropertyOptions =>
  ({ $ref: uri(name), ...(description && { description }) }) as ApiPropertyOptions;
/** A property that maps ids to one of them. */
export const mapOfCore = (name: ApiSchema): ApiPropertyOptions => ({ type: 'object', additionalProperties: { $ref: uri(name) } });

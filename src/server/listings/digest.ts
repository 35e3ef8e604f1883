import { hash } from 'node:crypto';
import type { Value } from '../../core/catalog/value';

export const md5 = (text: string): string => hash('md5', text);

/** A digest of values in the order of a sheet's fields. */
export const valuesDigest = (values: readonly (Value | undefined)[]): string => md5(JSON.stringify(values));

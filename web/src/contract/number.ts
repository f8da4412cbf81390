/** Numbers that count versions, sets and entries. */
import { z } from 'zod';

/** PostgreSQL's largest integer. */
export const LARGEST_NUMBER = 2 ** 31 - 1;

export const countingNumber = z.coerce.number().int().min(1).max(LARGEST_NUMBER);

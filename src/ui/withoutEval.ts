/** Schemas in the browser are checked without code made at run time, which the pages' policy forbids; asking alone would be noted as a breach. */
import { z } from 'zod';

z.config({ jitless: true });

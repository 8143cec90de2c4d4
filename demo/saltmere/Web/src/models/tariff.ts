import { z } from 'zod';

export const TariffLine = z.object({
  ticket: z.enum(['adult', 'child', 'bicycle', 'car']),
  amount: z.number().min(0),
  tax_included: z.boolean(),
  valid_until: z.string().datetime().optional(),
});

/** What the tickets for a sailing cost: the one answer that is looked at before it is used. */
export const Tariff = z.object({
  sailing_id: z.number().int(),
  currency: z.string().length(3),
  fares: z.array(TariffLine),
  discounts: z.record(z.string(), z.number()),
});
export type Tariff = z.infer<typeof Tariff>;

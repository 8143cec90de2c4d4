export interface Ship {
  name: string;
  call_sign: string;
  tonnage: number;
  capacity: Record<'passengers' | 'cars', number>;
  built?: number;
  website: string | null;
}

export interface Bulletin {
  text: string;
  severity: 1 | 2 | 3;
}

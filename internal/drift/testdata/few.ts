// document: {"items":[{"status":"on_time","gate":"A","mate":"x","note":"1"},{"status":"delayed","gate":"A","mate":"y","note":"2"},{"status":"on_time","gate":"A","mate":"z","note":"3"},{"status":"delayed","gate":"A","mate":"u","note":"4"}]}
// document: {"items":[{"status":"on_time","gate":"A","mate":"a","note":"5"},{"status":"delayed","gate":"A","mate":"b","note":"6"},{"status":"on_time","gate":"A","mate":"c","note":"7"},{"status":"delayed","gate":"A","mate":"d","note":"8"}]}
// lost: 0 exactly
export interface Root { items: Sailing[] }
export interface Sailing {
  status: string; // want few-texts 8/8 in 2
  gate: string; // one text says nothing of others
  mate: string;
  note: string; // want narrower-text 8/8 in 2
}
export const load = async () => (await (await fetch('/sailings')).json()) as Root;

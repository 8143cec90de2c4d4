const BASE_URL = 'https://api.saltmere.example';

/** Asks for JSON, and takes it for what the caller says. */
export async function request<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(`${BASE_URL}${path}`, init);
  if (!response.ok) {
    throw new Error(`status ${response.status}`);
  }
  return (await response.json()) as T;
}

import axios, { AxiosResponse } from 'axios';

interface Reply<T> { code: number; result: T }
interface Port { code: string }
interface Session { token: string }

const http = axios.create({ baseURL: 'https://api.saltmere.example' });

async function unwrap<T>(answer: Promise<AxiosResponse<Reply<T>>>): Promise<T> {
  const { data } = await answer;
  return data.result;
}

export const ports = () => unwrap(http.get<Reply<Port[]>>('/v2/ports')); // asks Reply<Port[]> v2/ports
export const login = (name: string) => unwrap<Session>(http.post('/v2/login', { name })); // asks Reply<Session> v2/login

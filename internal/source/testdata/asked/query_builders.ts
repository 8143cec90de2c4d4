import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';

export interface Tide { height: number }
export interface Route { from: string; to: string }

export const saltmere = createApi({
  reducerPath: 'saltmere',
  baseQuery: fetchBaseQuery({ baseUrl: '/v4/' }),
  endpoints: (builder) => ({
    tide: builder.query<Tide, string>({ query: (port) => `tides/${port}` }), // asks Tide tides/{}
    routes: builder.query<Route[], void>({ query: () => ({ url: 'routes' }) }), // asks Route[] routes
  }),
});

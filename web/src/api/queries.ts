// Question of the server: keys and fetchers together, so that a key is written once.
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { api, data } from "./client";
import { fetchFleet } from "../device/fleet";

export const yardQuery = (q: string) =>
  infiniteQueryOptions({
    queryKey: ["yard", q],
    queryFn: ({ pageParam }) => data(api.GET("/api/instruments", { params: { query: { q, cursor: pageParam, limit: 60 } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });

export const instrumentQuery = (tag: string) =>
  queryOptions({ queryKey: ["instrument", tag], queryFn: () => data(api.GET("/api/instruments/{tag}", { params: { path: { tag } } })) });

export const seriesQuery = (tag: string, of: string) =>
  queryOptions({ queryKey: ["series", tag, of], queryFn: () => data(api.GET("/api/instruments/{tag}/series", { params: { path: { tag }, query: { of } } })) });

export const standInsQuery = (tag: string) =>
  queryOptions({ queryKey: ["stand-ins", tag], queryFn: () => data(api.GET("/api/instruments/{tag}/stand-ins", { params: { path: { tag } } })) });

export const recordsQuery = (tag: string) =>
  infiniteQueryOptions({
    queryKey: ["records", tag],
    queryFn: ({ pageParam }) => data(api.GET("/api/records", { params: { query: { instrument: tag, cursor: pageParam, limit: 25 } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });

/** The checks a person made or saved last. */
export const myRecordsQuery = (username: string) =>
  queryOptions({ queryKey: ["records-by", username], queryFn: () => data(api.GET("/api/records", { params: { query: { by: username, category: "check", limit: 12 } } })) });

export const recordQuery = (uuid: string) =>
  queryOptions({ queryKey: ["record", uuid], queryFn: () => data(api.GET("/api/records/{uuid}", { params: { path: { uuid } } })) });

/** What was sighted from a set-up. */
export const orientationsQuery = (uuid: string) =>
  queryOptions({ queryKey: ["orientations", uuid], queryFn: () => data(api.GET("/api/records/{uuid}/orientations", { params: { path: { uuid } } })) });

export const lookBackQuery = (uuid: string) =>
  queryOptions({ queryKey: ["impact-review", uuid], queryFn: () => data(api.GET("/api/records/{uuid}/impact-review", { params: { path: { uuid } } })) });

/** Every control point of the firm. */
export const pointsQuery = queryOptions({ queryKey: ["points"], queryFn: () => data(api.GET("/api/points", { params: { query: { q: "" } } })) });

export const kindsQuery = queryOptions({ queryKey: ["kinds"], queryFn: () => data(api.GET("/api/kinds")), staleTime: 3_600_000 });

export const modelsQuery = queryOptions({ queryKey: ["models"], queryFn: () => data(api.GET("/api/models")) });

/** What this device keeps to calculate without signal. */
export const deviceQuery = queryOptions({ queryKey: ["device"], queryFn: fetchFleet, staleTime: 60_000 });

/** Everybody of the firm, leavers too: the manager's list. */
export const peopleQuery = queryOptions({ queryKey: ["everybody"], queryFn: () => data(api.GET("/api/people/all")) });

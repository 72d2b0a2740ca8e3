import * as z from "zod";
import { problemSchema } from "./problem";
import type { Operation } from "./operation";
import { OPERATIONS } from "../routes";

type Json = Record<string, unknown>;

function schemaOf(type: z.ZodType, io: "input" | "output"): Json {
  const { $schema: _, ...schema } = z.toJSONSchema(type, {
    io,
    unrepresentable: "any",
  }) as Json;
  return schema;
}

function parametersOf(operation: Operation): Json[] {
  const from = (object: z.ZodObject, place: "path" | "query"): Json[] =>
    Object.entries(object.shape).map(([name, type]) => ({
      name,
      in: place,
      required: place === "path" || !(type as z.ZodType).safeParse(undefined).success,
      schema: schemaOf(type as z.ZodType, "input"),
    }));
  return [...from(operation.params, "path"), ...from(operation.query, "query")];
}

function operationOf(name: string, operation: Operation): Json {
  const problem = {
    content: {
      "application/problem+json": {
        schema: { $ref: "#/components/schemas/Problem" },
      },
    },
  };
  const content = operation.response
    ? { "application/json": { schema: schemaOf(operation.response, "output") } }
    : { [operation.media ?? "text/plain"]: { schema: { type: "string" } } };
  return {
    operationId: name,
    summary: operation.summary,
    parameters: parametersOf(operation),
    ...(operation.body
      ? {
          requestBody: {
            required: true,
            content: {
              "application/json": { schema: schemaOf(operation.body, "input") },
            },
          },
        }
      : {}),
    responses: {
      [operation.created ? "201" : "200"]: { description: "Done", content },
      "4XX": { description: "What was asked cannot be; says why", ...problem },
      "5XX": { description: "The server failed", ...problem },
    },
  };
}

/** The OpenAPI 3.1 document, made from the schemas that also check every request. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [name, operation] of Object.entries(OPERATIONS)) {
    const path = operation.path.replace(/:(\w+)/g, "{$1}");
    paths[path] = {
      ...paths[path],
      [operation.method]: operationOf(name, operation as Operation),
    };
  }
  paths["/api/axes/{id}/device/stream"] = {
    get: {
      operationId: "deviceStream",
      summary: "Server-sent events: a device snapshot 30 times a second",
      parameters: [{ name: "id", in: "path", required: true, schema: { type: "integer" } }],
      responses: {
        "200": {
          description: "Events",
          content: { "text/event-stream": { schema: { type: "string" } } },
        },
      },
    },
  };
  return {
    openapi: "3.1.0",
    info: {
      title: "Iron Patience",
      version,
      description: "Lengths in millimetres, angles in degrees, feeds in mm/min, instants in UTC.",
    },
    paths,
    components: { schemas: { Problem: schemaOf(problemSchema, "output") } },
  };
}

// Types of `system.json` in TypeScript, made from its JSON Schema: node types.mjs SCHEMA > system.d.ts
import { readFileSync } from "node:fs";

const schema = JSON.parse(readFileSync(process.argv[2], "utf8"));
const name = key => key[0].toUpperCase() + key.slice(1);
const comment = (node, indent) => (node.description ? `${indent}/** ${node.description} */\n` : "");
const key = text => (/^[A-Za-z_$][\w$]*$/.test(text) ? text : JSON.stringify(text));

function type(node, indent) {
  if (node.$ref) return name(node.$ref.split("/").pop());
  if ("const" in node) return JSON.stringify(node.const);
  if (node.enum) return node.enum.map(one => JSON.stringify(one)).join(" | ");
  if (node.oneOf) return node.oneOf.map(one => type(one, indent)).join(" | ");
  if (Array.isArray(node.type)) return node.type.map(one => type({ ...node, type: one }, indent)).join(" | ");
  switch (node.type) {
    case "array":
      return `Array<${type(node.items, indent)}>`;
    case "integer":
    case "number":
      return "number";
    case "object":
      return node.properties ? object(node, indent) : `Record<string, ${type(node.additionalProperties, indent)}>`;
    case "string":
    case "boolean":
    case "null":
      return node.type;
    default:
      throw new Error(`what type is ${JSON.stringify(node)}?`);
  }
}

function object(node, indent) {
  const inner = `${indent}  `;
  const members = Object.entries(node.properties).map(([member, value]) => {
    const optional = (node.required ?? []).includes(member) ? "" : "?";
    return `${comment(value, inner)}${inner}${key(member)}${optional}: ${type(value, inner)};\n`;
  });
  return `{\n${members.join("")}${indent}}`;
}

let text = "// Types of system.json, which `stilk build` writes. Made from its JSON Schema.\n";
for (const [member, value] of Object.entries({ ...schema.$defs, system: { ...schema, description: schema.title } })) {
  text += `\n${comment(value, "")}export type ${name(member)} = ${type(value, "")};\n`;
}
process.stdout.write(text);

//! JSON Schemas (draft 2020-12) of the files that people write, made from the tables that read them: editors help with them
//! where nothing else of Stilk is known.

use crate::manifest::keys::{Kind, TABLES};
use crate::tokens::composite::{STROKE_STYLES, members};
use crate::tokens::value::FONT_WEIGHTS;
use crate::tokens::{TokenType, color};
use serde_json::{Map, Value, json};

const DRAFT: &str = "https://json-schema.org/draft/2020-12/schema";

/// Of `stilk.toml`.
pub fn manifest() -> Value {
    let mut tables = Map::new();
    let mut modifiers = Value::Null;
    for table in TABLES {
        let mut properties = Map::new();
        for key in table.keys {
            let mut value = of_kind(key.kind);
            if !key.values.is_empty() {
                let values: Vec<Value> = key.values.iter().map(|value| toml_value(value)).collect();
                value = json!({ "enum": values });
            }
            value["description"] = json!(key.words);
            properties.insert(key.name.to_owned(), value);
        }
        let required: Vec<&str> = table.keys.iter().filter(|key| key.is_required).map(|key| key.name).collect();
        let others = table.own.map_or(json!(false), of_kind);
        let mut object = json!({
            "type": "object",
            "description": table.words,
            "properties": properties,
            "additionalProperties": others,
        });
        if !required.is_empty() {
            object["required"] = json!(required);
        }
        match table.name.strip_suffix(".*") {
            Some(_) => modifiers = json!({ "type": "object", "additionalProperties": object }),
            None => drop(tables.insert(table.name.to_owned(), object)),
        }
    }
    tables.insert("modifiers".to_owned(), modifiers);
    json!({
        "$schema": DRAFT,
        "$id": "urn:stilk:manifest",
        "title": "stilk.toml",
        "type": "object",
        "properties": tables,
        "additionalProperties": false,
        "required": ["system"],
    })
}

/// A value of the manifest as TOML has it.
fn toml_value(text: &str) -> Value {
    serde_json::from_str(text).unwrap_or_else(|_| json!(text))
}

fn of_kind(kind: Kind) -> Value {
    let strings = || json!({ "type": "array", "items": { "type": "string" } });
    match kind {
        Kind::String => json!({ "type": "string" }),
        Kind::Boolean => json!({ "type": "boolean" }),
        Kind::Integer => json!({ "type": "integer" }),
        Kind::Strings => strings(),
        Kind::StringOrStrings => json!({ "anyOf": [{ "type": "string" }, strings()] }),
        Kind::Pairs => json!({
            "type": "array",
            "items": { "type": "array", "items": { "type": "string" }, "minItems": 2, "maxItems": 2 },
        }),
        Kind::StringTable => json!({ "type": "object", "additionalProperties": { "type": "string" } }),
        Kind::IntegerTable => json!({ "type": "object", "additionalProperties": { "type": "integer" } }),
    }
}

/// Of token files: the Design Tokens Format 2025.10, as it is read here.
pub fn tokens() -> Value {
    let mut schema = json!({
        "$schema": DRAFT,
        "$id": "urn:stilk:tokens",
        "title": "Design tokens",
        "$ref": "#/$defs/group",
    });
    schema["$defs"] = definitions();
    schema
}

/// Groups, tokens and the values of each type.
fn definitions() -> Value {
    let names: Vec<&str> = TokenType::names().collect();
    let typed: Vec<Value> = names
        .iter()
        .map(|name| {
            json!({
                "if": { "properties": { "$type": { "const": name } }, "required": ["$type"] },
                "then": { "properties": { "$value": { "$ref": format!("#/$defs/{name}") } } },
            })
        })
        .collect();
    let about = json!({
        "$type": { "enum": names, "description": "The type of this token, or of all tokens in this group (section 5.2.2)." },
        "$description": { "type": "string", "description": "What it is for (section 5.2.1)." },
        "$deprecated": {
            "type": ["boolean", "string"],
            "description": "Whether it should no longer be used, or why (section 5.2.4).",
        },
        "$extensions": { "type": "object", "description": "What tools note on it (section 5.2.3)." },
        "$schema": { "type": "string" },
    });
    let mut of_token = about.clone();
    of_token["$value"] = json!({ "description": "The value, or a reference: \"{group.token}\" (section 5.1)." });
    of_token["$ref"] = json!({ "type": "string" });
    let mut of_group = about;
    of_group["$extends"] = json!({ "description": "A group whose tokens this one has as well (section 6.5)." });
    of_group["$root"] = json!({ "$ref": "#/$defs/token" });
    of_group["$ref"] = json!({ "type": "string" });
    let mut definitions = json!({
        "group": {
            "type": "object",
            "properties": of_group,
            "additionalProperties": { "$ref": "#/$defs/entry" },
        },
        "entry": {
            "type": "object",
            "if": { "required": ["$value"] },
            "then": { "$ref": "#/$defs/token" },
            "else": { "$ref": "#/$defs/group" },
        },
        "token": {
            "type": "object",
            "properties": of_token,
            "additionalProperties": false,
            "required": ["$value"],
            "allOf": typed,
        },
        "reference": {
            "anyOf": [
                { "type": "string", "pattern": "^\\{[^{}]+\\}$" },
                {
                    "type": "object",
                    "properties": { "$ref": { "type": "string", "pattern": "^#/" } },
                    "required": ["$ref"],
                    "additionalProperties": false,
                },
            ],
        },
    });
    for name in names {
        if let Some(kind) = TokenType::named(name) {
            definitions[name] = json!({ "anyOf": [{ "$ref": "#/$defs/reference" }, value_of(kind)] });
        }
    }
    definitions
}

fn measure(units: [&str; 2], pattern: &str) -> Value {
    json!({
        "anyOf": [
            {
                "type": "object",
                "properties": {
                    "value": { "anyOf": [{ "type": "number" }, { "$ref": "#/$defs/reference" }] },
                    "unit": { "enum": units },
                },
                "required": ["value", "unit"],
            },
            { "type": "string", "pattern": pattern, "deprecated": true },
        ],
    })
}

/// A value of a type that is no reference.
fn value_of(kind: TokenType) -> Value {
    match kind {
        TokenType::Color => {
            let spaces: Vec<&str> = color::names().collect();
            json!({
                "anyOf": [
                    {
                        "type": "object",
                        "properties": {
                            "colorSpace": { "enum": spaces },
                            "components": {
                                "type": "array",
                                "items": {
                                    "anyOf": [{ "type": "number" }, { "const": "none" }, { "$ref": "#/$defs/reference" }],
                                },
                                "minItems": 3,
                                "maxItems": 3,
                            },
                            "alpha": {
                                "anyOf": [{ "type": "number", "minimum": 0, "maximum": 1 }, { "$ref": "#/$defs/reference" }],
                            },
                            "hex": { "type": "string", "pattern": "^#[0-9a-fA-F]{6}$" },
                        },
                        "required": ["colorSpace", "components"],
                    },
                    { "type": "string", "pattern": "^#", "deprecated": true },
                ],
            })
        }
        TokenType::Dimension => measure(["px", "rem"], "^-?[0-9.]+ *(px|rem)$"),
        TokenType::Duration => measure(["ms", "s"], "^[0-9.]+ *(ms|s)$"),
        TokenType::FontFamily => {
            json!({ "anyOf": [{ "type": "string" }, { "type": "array", "items": { "type": "string" }, "minItems": 1 }] })
        }
        TokenType::FontWeight => {
            json!({ "anyOf": [{ "type": "number", "minimum": 1, "maximum": 1000 }, { "enum": FONT_WEIGHTS.map(|row| row.0) }] })
        }
        TokenType::CubicBezier => {
            json!({ "type": "array", "items": { "type": "number" }, "minItems": 4, "maxItems": 4 })
        }
        TokenType::Number => json!({ "type": "number" }),
        TokenType::StrokeStyle => json!({ "anyOf": [{ "enum": STROKE_STYLES }, { "type": "object" }] }),
        TokenType::Border | TokenType::Transition | TokenType::Typography => composite(kind),
        TokenType::Shadow => json!({ "anyOf": [composite(kind), list(kind)] }),
        TokenType::Gradient => list(kind),
    }
}

fn list(kind: TokenType) -> Value {
    json!({ "type": "array", "items": { "anyOf": [{ "$ref": "#/$defs/reference" }, composite(kind)] } })
}

/// An object with the members of a type.
fn composite(kind: TokenType) -> Value {
    let mut properties = Map::new();
    let mut required = Vec::new();
    for (name, member, is_optional) in members(kind) {
        let own = json!({ "$ref": format!("#/$defs/{}", member.name()) });
        let own = match (kind, *name) {
            (TokenType::Typography, "letterSpacing") => json!({ "anyOf": [own, { "const": 0 }] }),
            _ => own,
        };
        properties.insert((*name).to_owned(), own);
        required.extend((!is_optional).then_some(*name));
    }
    if kind == TokenType::Shadow {
        properties.insert("inset".to_owned(), json!({ "type": "boolean" }));
    }
    json!({ "type": "object", "properties": properties, "required": required, "additionalProperties": false })
}

/// Of resolver documents: the Design Tokens Resolver 2025.10, as it is read here.
pub fn resolver() -> Value {
    let description = json!({ "type": "string" });
    let mut schema = json!({
        "$schema": DRAFT,
        "$id": "urn:stilk:resolver",
        "title": "Design tokens resolver",
        "type": "object",
        "properties": {
            "$schema": { "type": "string" },
            "version": { "const": "2025.10" },
            "name": { "type": "string" },
            "description": description,
            "sets": { "type": "object", "additionalProperties": { "$ref": "#/$defs/set" } },
            "modifiers": { "type": "object", "additionalProperties": { "$ref": "#/$defs/modifier" } },
            "resolutionOrder": {
                "type": "array",
                "description": "What is applied, in order; later ones override.",
                "items": {
                    "anyOf": [
                        { "$ref": "#/$defs/named" },
                        {
                            "type": "object",
                            "properties": { "type": { "enum": ["set", "modifier"] }, "name": { "type": "string" } },
                            "required": ["type", "name"],
                        },
                    ],
                },
            },
            "$defs": { "type": "object" },
            "$extensions": { "type": "object" },
        },
        "required": ["version", "resolutionOrder"],
    });
    let mut all = definitions();
    all["named"] = json!({
        "type": "object",
        "properties": { "$ref": { "type": "string", "pattern": "^#/(sets|modifiers)/" } },
        "required": ["$ref"],
    });
    all["sources"] = json!({
        "type": "array",
        "description": "Files, other sets, or tokens themselves; later ones override.",
        "items": {
            "anyOf": [
                { "type": "object", "properties": { "$ref": { "type": "string" } }, "required": ["$ref"] },
                { "$ref": "#/$defs/group" },
            ],
        },
    });
    all["set"] = json!({
        "type": "object",
        "properties": { "description": description, "sources": { "$ref": "#/$defs/sources" } },
        "required": ["sources"],
    });
    all["modifier"] = json!({
        "type": "object",
        "properties": {
            "description": description,
            "contexts": { "type": "object", "additionalProperties": { "$ref": "#/$defs/sources" }, "minProperties": 1 },
            "default": { "type": "string" },
        },
        "required": ["contexts", "default"],
    });
    schema["$defs"] = all;
    schema
}

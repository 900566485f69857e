using System.Text.Json;
using System.Text.Json.Serialization;

namespace PreciseBeacon.Core.Batches;

/// <summary>What feeds something: a column of the sheet, one value for all rows, or a text with columns in it. Exactly one is set.</summary>
/// <param name="Column">Name of a column.</param>
/// <param name="Value">The same for every row.</param>
/// <param name="Text">A text in which <c>@{Heading}</c> stands for that column of the row.</param>
[JsonConverter(typeof(Converter))]
public sealed record CellSource(string? Column = null, string? Value = null, string? Text = null)
{
    /// <summary>Reads a bare text as one value for all rows.</summary>
    private sealed class Converter : JsonConverter<CellSource>
    {
        public override CellSource? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType == JsonTokenType.String)
            {
                return new CellSource(Value: reader.GetString());
            }

            if (reader.TokenType != JsonTokenType.StartObject)
            {
                throw new JsonException("A field's source is a text, or one of column, value and text.");
            }

            string? column = null,
                value = null,
                text = null;
            while (reader.Read() && reader.TokenType != JsonTokenType.EndObject)
            {
                string? name = reader.GetString();
                reader.Read();
                string? given =
                    reader.TokenType == JsonTokenType.Null ? null
                    : reader.TokenType == JsonTokenType.String ? reader.GetString()
                    : throw new JsonException($"“{name}” of a recipe must be a text.");
                switch (name?.ToLowerInvariant())
                {
                    case "column":
                        column = given;
                        break;
                    case "value":
                        value = given;
                        break;
                    case "text":
                        text = given;
                        break;
                    default:
                        throw new JsonException($"A recipe knows column, value and text, not “{name}”.");
                }
            }

            return new CellSource(column, value, text);
        }

        public override void Write(Utf8JsonWriter writer, CellSource value, JsonSerializerOptions options)
        {
            writer.WriteStartObject();
            if (value.Column is { } column)
            {
                writer.WriteString("column", column);
            }

            if (value.Value is { } constant)
            {
                writer.WriteString("value", constant);
            }

            if (value.Text is { } text)
            {
                writer.WriteString("text", text);
            }

            writer.WriteEndObject();
        }
    }
}

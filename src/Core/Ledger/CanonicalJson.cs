using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace YardRelay.Core.Ledger;

/// <summary>
/// JSON text in the one form of RFC 8785, so that its digest is the same for everybody. Numbers are whole: amounts beyond 2^53 and instants
/// are strings.
/// </summary>
public static class CanonicalJson
{
    private const long LargestSafe = 1L << 53;

    /// <summary>The canonical text of a node.</summary>
    /// <exception cref="ArgumentException">A number is not whole or beyond 2^53.</exception>
    public static string Of(JsonNode? node)
    {
        var text = new StringBuilder();
        Write(node, text);
        return text.ToString();
    }

    private static void Write(JsonNode? node, StringBuilder text)
    {
        switch (node)
        {
            case null:
                text.Append("null");
                break;
            case JsonObject map:
                text.Append('{');
                // Section 3.2.3: by UTF-16 code units.
                foreach (var (i, (key, value)) in map.OrderBy(p => p.Key, StringComparer.Ordinal).Index())
                {
                    if (i > 0) text.Append(',');
                    WriteString(key, text);
                    text.Append(':');
                    Write(value, text);
                }
                text.Append('}');
                break;
            case JsonArray list:
                text.Append('[');
                foreach (var (i, value) in list.Index())
                {
                    if (i > 0) text.Append(',');
                    Write(value, text);
                }
                text.Append(']');
                break;
            default:
                var one = node.GetValueKind();
                if (one == JsonValueKind.String) WriteString(node.GetValue<string>(), text);
                else if (one == JsonValueKind.Number)
                {
                    if (!long.TryParse(node.ToJsonString(), CultureInfo.InvariantCulture, out var number) || Math.Abs(number) > LargestSafe)
                        throw new ArgumentException($"The number {node.ToJsonString()} is not whole or beyond 2^53.", nameof(node));
                    text.Append(number.ToString(CultureInfo.InvariantCulture));
                }
                else text.Append(one == JsonValueKind.True ? "true" : "false");
                break;
        }
    }

    private static void WriteString(string value, StringBuilder text)
    {
        text.Append('"');
        foreach (var c in value)
            _ = c switch
            {
                '"' => text.Append("\\\""),
                '\\' => text.Append("\\\\"),
                '\b' => text.Append("\\b"),
                '\f' => text.Append("\\f"),
                '\n' => text.Append("\\n"),
                '\r' => text.Append("\\r"),
                '\t' => text.Append("\\t"),
                < ' ' => text.Append(CultureInfo.InvariantCulture, $"\\u{(int)c:x4}"),
                _ => text.Append(c),
            };
        text.Append('"');
    }
}

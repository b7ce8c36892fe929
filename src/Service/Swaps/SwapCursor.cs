using System.Text.Json;
using YardRelay.Records;

namespace YardRelay.Service.Swaps;

/// <summary>Where a page of swaps ended: its order, the last one's place in it, and its id.</summary>
internal sealed record SwapCursor(string Order, string Place, string Id)
{
    public static SwapCursor Behind(SwapOrder order, SwapRow last) => new(order.Key, order.PlaceOf(last), last.Id);

    /// <summary>As a caller gives it back: letters, digits, '-' and '_'.</summary>
    public string Text => Convert.ToBase64String(JsonSerializer.SerializeToUtf8Bytes<string[]>([Order, Place, Id]))
        .Replace('+', '-').Replace('/', '_').TrimEnd('=');

    /// <summary>Reads one; null where it is not one of ours.</summary>
    public static SwapCursor? Read(string text)
    {
        var padded = text.Replace('-', '+').Replace('_', '/').PadRight((text.Length + 3) / 4 * 4, '=');
        try
        {
            return JsonSerializer.Deserialize<string[]>(Convert.FromBase64String(padded)) is [{ } order, { } place, { } id]
                ? new(order, place, id)
                : null;
        }
        catch (Exception wrong) when (wrong is FormatException or JsonException)
        {
            return null;
        }
    }
}

using YardRelay.Contracts;

namespace YardRelay.Line.Shown;

/// <summary>What became of orders that were wanted.</summary>
internal static class OrdersText
{
    public static void Say(OrdersMade made)
    {
        foreach (var skipped in made.Skipped) Tables.Say($"– {skipped}");
        Tables.Say($"{made.Given} {(made.Given == 1 ? "order" : "orders")} given. Follow them with 'yardline today'.");
        if (made.WithoutHand.Count == 0) return;
        Tables.Say(
            $"▲ No hand is enrolled at {string.Join(", ", made.WithoutHand)}: what is ordered there waits until one is. "
                + $"'yardline hand code {made.WithoutHand[0]}' gives the code for it.");
    }
}

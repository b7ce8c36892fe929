using YardRelay.Contracts;

namespace YardRelay.Line.Shown;

/// <summary>What became of orders that were wanted.</summary>
internal static class OrdersText
{
    public static void Say(OrdersMade made)
    {
        foreach (var skipped in made.Skipped) Tables.Say($"– {skipped}");
        Tables.Say($"{made.Given} {(made.Given == 1 ? "order" : "orders")} given. Follow them with 'yardline today'.");
    }
}

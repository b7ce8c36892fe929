using YardRelay.Core.Carrying;

namespace YardRelay.Core.Checklists;

/// <summary>An answer that is proposed, and why.</summary>
public sealed record Proposal(string Value, string Words);

/// <summary>How often a computer should be looked after, by how fast its files grow.</summary>
public static class Upkeep
{
    private const double Days = 30;

    /// <summary>Growth in thirty days, as part of what was there, from which the most frequent answer is proposed.</summary>
    public const double Fast = 0.10;

    /// <summary>Growth in thirty days below which the least frequent answer is proposed.</summary>
    public const double Slow = 0.01;

    /// <summary>Proposes one of the answers.</summary>
    /// <param name="before">Bytes at the earlier survey; 0 or more.</param>
    /// <param name="now">Bytes at the last survey; 0 or more.</param>
    /// <param name="between">Time from the one to the other.</param>
    /// <param name="options">The answers, the most frequent first; at least two.</param>
    /// <returns>Null: less than a day lies between the surveys, or nothing was there, so nothing can be said.</returns>
    public static Proposal? Propose(long before, long now, TimeSpan between, IReadOnlyList<string> options)
    {
        if (between < TimeSpan.FromDays(1) || before <= 0 || options.Count < 2) return null;
        var growth = (double)(now - before) / before * (Days / between.TotalDays);
        var at = growth >= Fast ? 0 : growth < Slow ? options.Count - 1 : options.Count / 2;
        var days = (int)Math.Round(between.TotalDays);
        var change = now >= before ? $"grew by {ByteText.Of(now - before)}" : $"shrank by {ByteText.Of(before - now)}";
        return new(options[at], $"The files {change} in {(days == 1 ? "a day" : $"{days} days")}, {growth * 100:0.#} % a month.");
    }
}

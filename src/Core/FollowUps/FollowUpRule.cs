namespace YardRelay.Core.FollowUps;

/// <summary>What an open follow-up holds up.</summary>
public enum FollowUpHold
{
    /// <summary>Nothing: it is only not forgotten.</summary>
    Nothing,

    /// <summary>The old computer's wipe.</summary>
    Wipe,

    /// <summary>The sign-offs, and with them the wipe.</summary>
    SignOff,
}

/// <summary>A follow-up that is open, as gates see it.</summary>
public sealed record OpenFollowUp(string Words, string Owner, DateTimeOffset Due, FollowUpHold Holds);

/// <summary>What open follow-ups mean for gates.</summary>
public static class FollowUpRule
{
    /// <summary>What stands in the way of a sign-off, in whole sentences.</summary>
    public static IEnumerable<string> MissingForSignOff(IEnumerable<OpenFollowUp> open) =>
        Words([.. open.Where(f => f.Holds == FollowUpHold.SignOff)]);

    /// <summary>What stands in the way of a wipe, in whole sentences.</summary>
    public static IEnumerable<string> MissingForWipe(IEnumerable<OpenFollowUp> open) =>
        Words([.. open.Where(f => f.Holds != FollowUpHold.Nothing)]);

    private static IEnumerable<string> Words(IReadOnlyList<OpenFollowUp> holding)
    {
        const int Named = 4;
        if (holding.Count > 0)
            yield return $"{(holding.Count == 1 ? "1 follow-up is" : $"{holding.Count} follow-ups are")} open: "
                + $"{string.Join("; ", holding.OrderBy(f => f.Due).Take(Named).Select(f => $"{f.Words.TrimEnd('.')} ({f.Owner})"))}"
                + $"{(holding.Count > Named ? "; …" : "")}.";
    }
}

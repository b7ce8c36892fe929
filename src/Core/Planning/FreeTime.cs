namespace YardRelay.Core.Planning;

/// <summary>When a person is free at their site: local time there.</summary>
public readonly record struct FreeTime(DateOnly Day, TimeOnly From, TimeOnly Until)
{
    /// <inheritdoc/>
    public override string ToString() => $"{Day:yyyy-MM-dd} {From:HH\\:mm}-{Until:HH\\:mm}";
}

using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Line.Verbs;

/// <summary>Where nothing was ordered, nothing was done.</summary>
internal static class OrdersDone
{
    public static Result<OrdersMade> Of(Result<OrdersMade> made) =>
        made is { IsOk: true, Value.Given: 0 } ? new NothingOrderedProblem(made.Value.Skipped) : made;
}

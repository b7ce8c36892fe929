using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Problems;

/// <summary>The one place where a <see cref="Problem"/> becomes RFC 9457.</summary>
internal static class ProblemHttp
{
    private const int MostShown = 1000;

    public static ProblemHttpResult ToHttp(this IReadOnlyList<Problem> problems)
    {
        var first = problems[0];
        var status = first switch
        {
            ServiceProblem s => s.Status,
            SignOffShut or WipeShut or LeaseLost or BatchMissing => 409,
            _ => first.Code.EndsWith(".not-found", StringComparison.Ordinal) ? 404 : 422,
        };
        var extensions = new Dictionary<string, object?> { ["code"] = first.Code };
        if (problems.Count > 1 || first.Code == "roster.row")
            extensions["problems"] = problems.Take(MostShown).Select(p => new { p.Code, p.Message }).ToList();
        if (first is SignOffShut shut) extensions["missing"] = shut.Missing;
        if (first is WipeShut wipe) extensions["missing"] = wipe.Missing;
        if (first is StaleProblem stale) extensions["current"] = stale.Current;
        return TypedResults.Problem(
            detail: problems.Count > 1 ? $"{first.Message} ({problems.Count} problems in all)" : first.Message,
            statusCode: status,
            title: Title(status),
            type: $"https://yardrelay.example/problems/{first.Code}",
            extensions: extensions);
    }

    public static ProblemHttpResult ToHttp(this Problem problem) => ToHttp([problem]);

    public static Results<Ok<T>, ProblemHttpResult> ToHttp<T>(this Result<T> result) =>
        result.IsOk ? TypedResults.Ok(result.Value) : result.Problems.ToHttp();

    private static string Title(int status) => status switch
    {
        401 => "Sign in first",
        403 => "Not allowed",
        404 => "Not found",
        409 => "Does not fit how things stand",
        412 => "Changed meanwhile",
        _ => "Cannot be done as asked",
    };
}

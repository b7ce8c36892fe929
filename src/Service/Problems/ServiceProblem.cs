using YardRelay.Core;

namespace YardRelay.Service.Problems;

/// <summary>A problem with the HTTP status that fits it.</summary>
internal record ServiceProblem(string Code, string Message, int Status) : Problem(Code, Message)
{
    public static ServiceProblem NotFound(string what, string id) =>
        new($"{what}.not-found", $"There is no {what} '{id}' here, or it is not yours to see.", 404);

    /// <summary>What a rule says against it, as something that does not fit how things stand.</summary>
    public static ServiceProblem AsConflict(Problem refusal) => new(refusal.Code, refusal.Message, 409);
}

/// <summary>A list was asked for with something that it does not take.</summary>
internal sealed record ListProblem(string What, string Why) : ServiceProblem("list." + What, Why, 400);

/// <summary>A list was asked for in pages of a size that it does not have.</summary>
internal sealed record ListLimitProblem(int Limit, int MostPerPage) : ServiceProblem(
    "list.limit", $"'limit' is {Limit}; use 1 to {MostPerPage}.", 400);

/// <summary>A problem that carries how things stand now.</summary>
internal sealed record StaleProblem(string Message, object Current) : ServiceProblem("changed-meanwhile", Message, 412);

using YardRelay.Core;

namespace YardRelay.Service.Problems;

/// <summary>A problem with the HTTP status that fits it.</summary>
internal record ServiceProblem(string Code, string Message, int Status) : Problem(Code, Message)
{
    public static ServiceProblem NotFound(string what, string id) =>
        new($"{what}.not-found", $"There is no {what} '{id}' here, or it is not yours to see.", 404);

    public static ServiceProblem Forbidden(string message) => new("not-allowed", message, 403);

    public static ServiceProblem Conflict(string code, string message) => new(code, message, 409);
}

/// <summary>A problem that carries how things stand now.</summary>
internal sealed record StaleProblem(string Message, object Current) : ServiceProblem("changed-meanwhile", Message, 412);

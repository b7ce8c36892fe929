using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Ledgers;

internal sealed record ListLimitProblem(int Limit, int MostPerPage) : ServiceProblem(
    "list.limit",
    $"'limit' is {Limit}; use 1 to {MostPerPage}.", 400);

internal sealed record ListCursorProblem() : ServiceProblem(
    "list.cursor",
    "The cursor is not one of ours.", 400);

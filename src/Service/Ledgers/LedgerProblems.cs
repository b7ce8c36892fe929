using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Ledgers;

internal sealed record ListCursorProblem() : ServiceProblem(
    "list.cursor",
    "The cursor is not one of ours.", 400);

using YardRelay.Core;

namespace YardRelay.Carriage.Depots;

internal sealed record DirectCodeProblem(string Words) : Problem(
    "direct.code",
    Words);

internal sealed record DepotModesProblem(string Asked, string Why) : Problem(
    "depot.modes",
    $"'{Asked}' in a depot's address says nothing that is known: behind a folder or sftp address stands ?modes=private, ?modes=group or "
        + $"?modes=as-mounted. {Why}");

internal sealed record DepotAddressProblem(string Address) : Problem(
    "depot.address",
    $"'{Address}' is not an address of a depot. Use file:///path for a folder, a mounted share or a disk, http(s)://host/path for "
        + $"a WebDAV share, sftp://user@host/path for a folder behind an SSH server, or direct://host:port for a hand that "
        + $"receives.");

using YardRelay.Core;

namespace YardRelay.Carriage.Depots;

internal sealed record DirectCodeProblem(string Words) : Problem(
    "direct.code",
    Words);

internal sealed record DepotAddressProblem(string Address) : Problem(
    "depot.address",
    $"'{Address}' is not an address of a depot. Use file:///path for a folder, a mounted share or a disk, http(s)://host/path for "
        + $"a WebDAV share, sftp://user@host/path for a folder behind an SSH server, or direct://host:port for a hand that "
        + $"receives.");

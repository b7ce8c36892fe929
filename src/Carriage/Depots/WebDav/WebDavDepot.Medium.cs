using System.Net;
using System.Security.Cryptography;
using System.Xml.Linq;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.WebDav;

/// <content>
/// What lies below a share: most say nothing of it. One that Yard Relay serves says where bytes come from, brings what was written onto its
/// medium when it is asked to, and says what came of that (<see cref="MediumByHttp"/>).
/// </content>
public sealed partial class WebDavDepot
{
    private static readonly XName MediumName = XName.Get(MediumByHttp.Property, MediumByHttp.Namespace);

    /// <summary>As it said when it was asked first: all that is written from then on must be taken.</summary>
    private sealed record ShareMedium(ReadFrom From, string AsOf);

    private ShareMedium? _medium;

    /// <inheritdoc/>
    public bool HasMedium => Volatile.Read(ref _medium)?.From == ReadFrom.Medium;

    // Of each answer: whoever has not probed has looked at least.
    private void LearnMedium(XDocument answer)
    {
        if (_medium is null
            && answer.Descendants(MediumName).FirstOrDefault(m => m.Attribute(MediumByHttp.AsOf) is not null) is { } told)
            Interlocked.CompareExchange(
                ref _medium, new(MediumByHttp.Of(told.Value), told.Attribute(MediumByHttp.AsOf)!.Value), null);
    }

    /// <inheritdoc/>
    public async Task<Result<ReadBack>> OpenBackAsync(DepotPath path, CancellationToken cancel)
    {
        var from = ReadFrom.Unknown;
        return (await OpenAsync(path, past: true, Told, cancel)).TryGet(out var stream, out var problem)
            ? new ReadBack(stream, from)
            : problem;

        void Told(HttpResponseMessage response) =>
            from = MediumByHttp.Of(response.Headers.TryGetValues(MediumByHttp.From, out var said) ? said.FirstOrDefault() : null);
    }

    /// <inheritdoc/>
    public async Task SettleAsync(CancellationToken cancel)
    {
        if (Volatile.Read(ref _medium) is not { } medium) return;
        var now = await SettleAsync(DepotPath.Root, folder: true, cancel);
        if (now != medium.AsOf)
            throw new DepotNotTakenException(
                Address, new IOException("its computer was started anew meanwhile, or its disk failed before"));
    }

    /// <returns>Until when all that was written counts.</returns>
    /// <exception cref="DepotNotTakenException">The medium did not take it.</exception>
    private async Task<string> SettleAsync(DepotPath path, bool folder, CancellationToken cancel)
    {
        using var response = await SendAsync(() => Request("POST", path, folder), cancel, _options.SettleWithin);
        var said = (await response.Content.ReadAsStringAsync(cancel)).Trim();
        return response.StatusCode switch
        {
            HttpStatusCode.OK => said,
            HttpStatusCode.FailedDependency => throw new DepotNotTakenException(Address, new IOException(said)),
            _ => throw new DepotUnreachableException(
                Address, $"it answers {(int)response.StatusCode} where it was asked to bring what was written onto its disk."),
        };
    }

    /// <summary>Has what lies aside on the medium, and read back from there; not where the share has no such thing.</summary>
    private async Task<Problem?> GiveBackAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        if (Volatile.Read(ref _medium) is null) return null;
        await SettleAsync(aside, folder: false, cancel);
        if (content.Sha256 is not { } known || !HasMedium) return null;
        if (!(await OpenBackAsync(aside, cancel)).TryGet(out var back, out var problem)) return problem;
        await using (back.Stream)
        {
            if (Convert.ToHexStringLower(await SHA256.HashDataAsync(back.Stream, cancel)) != known()) return new DepotKeptOther(path.Text);
        }
        content.GaveBack?.Invoke(back.From);
        return null;
    }
}

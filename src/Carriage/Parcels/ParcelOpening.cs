using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Parcels;

/// <summary>The parcel is of a form that this program does not write.</summary>
public sealed record ParcelUnknown(string Why) : Problem("parcel.unknown", Why);

/// <summary>A parcel that was opened: what it says of itself, and where its things are.</summary>
internal sealed record OpenedParcel(JsonObject Info, ParcelPaths Paths)
{
    public string Id => (string)Info["id"]!;
}

/// <summary>Finds out what stands at the place of a parcel, and opens its seal; or makes a new one.</summary>
public sealed class ParcelOpening(IDepot depot, DepotPath parcel, SealKeys keys, IWork work)
{
    // The work of scrypt: half a second, 128 MiB.
    private const int Work = 17;
    // Format 1 says nothing of its source; the next trip raises it.
    private const int Format = 2;
    private const int OldestFormat = 1;
    private readonly ParcelPaths _paths = new(parcel);

    /// <summary>Opens a parcel; a value of null where there is none.</summary>
    /// <param name="needsKey">False: a sealed one is taken also where no key opens it.</param>
    internal async Task<Result<OpenedParcel?>> TryOpenAsync(bool needsKey, CancellationToken cancel)
    {
        if (await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Info), cancel) is not { } text) return Result<OpenedParcel?>.Of(null);
        JsonObject? info;
        try
        {
            info = JsonNode.Parse(text) as JsonObject;
            if (info is not null && ((int?)info["format"] is null || !Guid.TryParse((string?)info["id"], out _))) info = null;
        }
        catch (Exception wrong) when (wrong is JsonException or InvalidOperationException or FormatException)
        {
            info = null;
        }
        if (info is null)
            return new ParcelUnknown(
                $"The parcel's file {ParcelPaths.Info} is damaged. Verify the parcel, and restore that file from the depot's own history.");
        if ((int)info["format"]! is < OldestFormat or > Format)
            return new ParcelUnknown(
                $"The parcel has format {info["format"]}, and this program knows {OldestFormat} to {Format}. Use a newer yardhand.");
        switch ((string?)info["form"])
        {
            case "open":
                return new OpenedParcel(info, _paths);
            case "sealed":
                var seal = await OpenSealAsync((string)info["id"]!, cancel);
                return seal is null && needsKey
                    ? new ParcelSealed(parcel.Text)
                    : new OpenedParcel(info, _paths with { Seal = seal ?? new(null, []) });
            default:
                return new ParcelUnknown(
                    $"The parcel has the form '{info["form"]}', and this program knows open and sealed ones. Use a newer yardhand.");
        }
    }

    /// <summary>
    /// Whether the depot holds the very parcel that was carried: the account at this end may be another one, with a parcel of the same
    /// name.
    /// </summary>
    /// <returns>What is wrong; null: it is the one, or there is none, or its own file is damaged, which others tell better.</returns>
    public async Task<Problem?> OtherThanAsync(string id, CancellationToken cancel) =>
        await TryOpenAsync(needsKey: false, cancel) is { IsOk: true, Value: { } found } && found.Id != id
            ? new ParcelOtherProblem(depot.Address, parcel)
            : null;

    /// <summary>Takes up names where some are one to the depot of an open parcel; null: it tells all.</summary>
    internal static TwinNames? TwinsOf(JsonObject info)
    {
        var tellsCase = info["tellsCase"]?.GetValue<bool>() ?? true;
        return tellsCase && (info["tellsForm"]?.GetValue<bool>() ?? true) ? null : new(tellsCase);
    }

    /// <summary>What a parcel says of itself once a trip of this program is over.</summary>
    internal static JsonObject Raised(JsonObject info)
    {
        info["format"] = Format;
        return info;
    }

    /// <summary>Opens a parcel, or makes one where the place is free.</summary>
    /// <param name="wish">How a new one is sealed; null: it is open.</param>
    internal async Task<Result<OpenedParcel>> OpenOrMakeAsync(SealingWish? wish, CancellationToken cancel)
    {
        if (!(await TryOpenAsync(needsKey: true, cancel)).TryGet(out var known, out var problem) && problem is not null) return problem;
        if (known is not null)
        {
            if (wish is not null && known.Paths.Seal is null)
                return new BegunOpen(parcel);
            // One of an earlier program says nothing of it.
            if (known.Paths.Seal is null && known.Info["tellsForm"] is null)
                known.Info["tellsForm"] = (await depot.ProbeAsync(cancel)).TellsForm;
            return known;
        }
        // Over a slow link each answer takes its time: what does not depend on another is asked at once.
        var (looking, probing) = (ParcelGround.TakenAsync(depot, _paths, cancel), depot.ProbeAsync(cancel));
        await Task.WhenAll(looking, probing);
        if (await looking is { } taken) return taken;
        var features = await probing;
        var id = work.NewId().ToString();
        var paths = wish is null ? _paths : _paths with { Seal = await MakeSealAsync(id, wish, cancel) };
        // Names stay in a sealed parcel's lists and packs, where any name can stand.
        var info = new JsonObject
        {
            ["format"] = Format,
            ["id"] = id,
            ["form"] = wish is null ? "open" : "sealed",
            ["names"] = (wish is null ? new NameRule(!features.HoldsAnyName, !features.KeepsForm) : NameRule.Plain).Code,
            ["tellsCase"] = wish is not null || features.TellsCase,
            ["tellsForm"] = wish is not null || features.TellsForm,
            ["made"] = work.Time.GetUtcNow(),
        };
        await depot.MakeFoldersAsync(paths.Data, cancel);
        using (var file = new TagFile(work))
        {
            file.WriteText(info.ToJsonString());
            await file.MustSaveAsync(depot, paths, ParcelPaths.Info, cancel);
        }
        return new OpenedParcel(info, paths);
    }

    /// <summary>Seals the parcel's key for one more recipient or for a passphrase. Packs stay as they are.</summary>
    /// <returns>The name of the file that was added.</returns>
    public async Task<Result<string>> AddAsync(SealingWish wish, CancellationToken cancel)
    {
        if (!(await TryOpenAsync(needsKey: true, cancel)).TryGet(out var opened, out var problem) && problem is not null) return problem;
        if (opened is null) return new NoParcel(parcel.Text, depot.Address);
        if (opened.Paths.Seal is not { } seal)
            return new ParcelIsOpen(parcel);
        if (await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.TagManifest), cancel) is not { } tags)
            return new ParcelUnfinished("The parcel's first trip is not finished. Run the trip again, then add the key.");
        if (!(await ParcelLock.TakeAsync(depot, opened.Paths, work, cancel)).TryGet(out var held, out var locked)) return locked;
        await using (held)
        {
            var name = wish.To.Count > 0 ? $"added-{wish.To[0].Text[4..16]}" : "passphrase";
            var digest = await SaveKeyAsync(seal, wish, name, cancel);
            var path = DepotPath.Of(KeyFile(name));
            var lines = Encoding.UTF8.GetString(tags)
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(l => ManifestLine.TryParse(Encoding.UTF8.GetBytes(l))).OfType<ManifestLine>()
                .Where(l => l.Path != path)
                .Append(new(digest, path))
                .OrderBy(l => l.Path);
            using var file = new TagFile(work);
            foreach (var line in lines) file.WriteText(line.Text);
            await file.MustSaveAsync(depot, opened.Paths, ParcelPaths.TagManifest, cancel);
            return KeyFile(name);
        }
    }

    /// <summary>Where the key is sealed to the recipients that the first trip was given.</summary>
    internal const string RecipientsFile = $"{ParcelPaths.Keys}/recipients.age";

    /// <summary>Seals the key to them once more, where that file was damaged.</summary>
    internal Task RenewAsync(Seal seal, CancellationToken cancel) => SaveKeyAsync(seal, new(seal.To, null), "recipients", cancel);

    private static string KeyFile(string name) => $"{ParcelPaths.Keys}/{name}.age";

    private async Task<Seal> MakeSealAsync(string id, SealingWish wish, CancellationToken cancel)
    {
        var seal = new Seal(AgeIdentity.Create(), wish.To);
        await depot.RemoveAsync(_paths.At(ParcelPaths.Keys), cancel);
        if (wish.To.Count > 0) await SaveKeyAsync(seal, wish with { Passphrase = null }, "recipients", cancel);
        if (wish.Passphrase is not null) await SaveKeyAsync(seal, new([], wish.Passphrase), "passphrase", cancel);
        if (keys.Folder is { } folder)
        {
            if (OperatingSystem.IsWindows()) Directory.CreateDirectory(folder);
            else Directory.CreateDirectory(folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
            var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
            if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            await using var kept = new FileStream(Path.Combine(folder, id), options);
            await kept.WriteAsync(Encoding.ASCII.GetBytes(seal.Text()), cancel);
        }
        return seal;
    }

    private async Task<string> SaveKeyAsync(Seal seal, SealingWish wish, string name, CancellationToken cancel)
    {
        var text = Encoding.ASCII.GetBytes(seal.Text());
        using var sealing = wish.Passphrase is { } passphrase
            ? SealingStream.To(passphrase, Work, new MemoryStream(text), text.Length)
            : SealingStream.To(wish.To, new MemoryStream(text), text.Length);
        using var file = new TagFile(work);
        await sealing.CopyToAsync(file.Out, cancel);
        return await file.MustSaveAsync(depot, _paths, KeyFile(name), cancel);
    }

    private async Task<Seal?> OpenSealAsync(string id, CancellationToken cancel)
    {
        if (keys.Own is { } parcelKey && Seal.TryParse(parcelKey) is { } given) return given;
        if (keys.Folder is { } folder
            && Path.Combine(folder, id) is var kept
            && File.Exists(kept)
            && Seal.TryParse(await File.ReadAllTextAsync(kept, cancel)) is { } own)
            return own;
        if (keys.Identities.Count == 0 && keys.Passphrase is null) return null;
        foreach (var name in await depot.ListAsync(_paths.At(ParcelPaths.Keys), cancel))
        {
            if (name.IsFolder || name.Bytes > 1 << 20) continue;
            var file = await depot.OpenAsync(_paths.At(ParcelPaths.Keys) / name.Name, cancel);
            if (!file.IsOk) continue;
            await using var stream = file.Value;
            try
            {
                await using var opened = await OpenedStream.OpenAsync(stream, keys.Identities, keys.Passphrase, cancel);
                if (opened is null) continue;
                using var text = new StreamReader(opened, Encoding.ASCII);
                if (Seal.TryParse(await text.ReadToEndAsync(cancel)) is { } seal) return seal;
            }
            catch (SealBrokenException)
            {
                // Another way in may be whole; verifying names this one.
            }
        }
        return null;
    }
}

using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Files.Names;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

/// <summary>A WebDAV share that does not have all names as they are given to it.</summary>
public abstract class OddNamesConformance(Func<string, string> folds, Func<string, string>? forms) : DepotConformance, IAsyncLifetime
{
    private readonly TempFolder _folder = new();
    private CloudShare _share = null!;
    private WebDavDepot _depot = null!;

    protected override IDepot Depot => _depot;

    public async ValueTask InitializeAsync()
    {
        _share = await CloudShare.StartAsync(new() { Folder = _folder.At });
        (_share.Folds, _share.Forms) = (folds, forms);
        _depot = new(new(_share.Address), new());
    }

    public async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        _depot.Dispose();
        await _share.DisposeAsync();
        _folder.Dispose();
    }
}

/// <summary>One that takes names for one that differ in case or form, and lists them as they were given.</summary>
public sealed class FoldingCloudConformance() : OddNamesConformance(n => NameFold.Form(n).ToUpperInvariant(), null)
{
    [Fact]
    public async Task It_says_that_it_tells_neither_case_nor_form()
    {
        var features = await Depot.ProbeAsync(Cancel);
        (features.TellsCase, features.TellsForm, features.KeepsForm).ShouldBe((false, false, true));
    }
}

/// <summary>One that writes each name down in the one form that it likes, as far as these tests have letters in two.</summary>
public sealed class ComposingCloudConformance() : OddNamesConformance(
    NameFold.Form,
    n => n.Replace("o\u0308", "ö", StringComparison.Ordinal).Replace("e\u0301", "é", StringComparison.Ordinal))
{
    [Fact]
    public async Task It_says_that_it_does_neither_tell_form_nor_keep_it()
    {
        var features = await Depot.ProbeAsync(Cancel);
        (features.TellsCase, features.TellsForm, features.KeepsForm).ShouldBe((true, false, false));
    }
}

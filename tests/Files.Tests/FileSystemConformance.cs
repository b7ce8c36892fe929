using System.Text;

namespace YardRelay.Files.Tests;

/// <summary>What every side of the seam promises, whatever system stands behind it.</summary>
public abstract class FileSystemConformance : IDisposable
{
    /// <summary>An empty folder that the suite may fill.</summary>
    protected abstract TreeRoot Root { get; }

    protected OpenFolder Top => field ??= Root.Open();

    private static byte[] B(string name) => Encoding.UTF8.GetBytes(name);

    private static void Write(OpenFolder folder, string path, string content)
    {
        using var file = folder.OpenFileAt(B(path), FileUse.MakeNew);
        file.Write(0, B(content));
    }

    private static string Content(OpenFile file)
    {
        var into = new byte[4096];
        return Encoding.UTF8.GetString(into, 0, file.Read(0, into));
    }

    private string Content(string path)
    {
        using var file = Top.OpenFileAt(B(path), FileUse.Read);
        return Content(file);
    }

    private OpenFolder Folder(string name)
    {
        Top.TryMakeFolder(B(name), 0x1ED, out _).ShouldBeTrue();
        return Top.OpenFolderAt(B(name));
    }

    [Theory]
    [InlineData("nothing", Fault.NotThere)]
    [InlineData("nothing/below", Fault.NotThere)]
    [InlineData("file/below", Fault.NotAFolder)]
    [InlineData("link", Fault.ThroughLink)]
    [InlineData("link/below", Fault.ThroughLink)]
    [InlineData("up/file", Fault.ThroughLink)]
    public void Whoever_opens_a_file_learns_whether_nothing_is_there_or_why_it_is_not_known(string path, Fault why)
    {
        Write(Top, "file", "x");
        Top.MakeLink(B("link"), B("file"));
        Top.MakeLink(B("up"), B(".."));
        Top.TryOpenFile(B(path), FileUse.Read, out var trouble).ShouldBeNull();
        trouble.Fault.ShouldBe(why);
    }

    [Theory]
    [InlineData("..")]
    [InlineData("folder/..")]
    [InlineData("folder/../..")]
    [InlineData("folder/../file")]
    public void No_path_leads_up(string path)
    {
        Write(Top, "file", "x");
        Folder("folder").Dispose();
        using var folder = Top.OpenFolderAt(B("folder"));
        Top.TryOpenFolder(B(path), FolderUse.List, out _).ShouldBeNull();
        Top.TryOpenFile(B(path), FileUse.Read, out _).ShouldBeNull();
        folder.TryOpenFolder(B(path), FolderUse.Pass, out _).ShouldBeNull();
    }

    [Fact]
    public void Folders_may_lie_deeper_than_a_path_is_long()
    {
        var (at, path) = (Top.OpenFolderAt([]), "");
        for (var depth = 0; depth < 50; depth++)
        {
            var name = $"{depth:00}{new string('f', 200)}";
            at.TryMakeFolder(B(name), 0x1ED, out _).ShouldBeTrue();
            var below = at.OpenFolderAt(B(name));
            at.Dispose();
            (at, path) = (below, path + name + "/");
        }
        using (at) Write(at, "letter", "from the deep");
        Content(path + "letter").ShouldBe("from the deep");
        using (var found = Top.OpenFolderAt(B(path.TrimEnd('/')))) found.Names().ShouldHaveSingleItem();
        Top.TryOpenFile(B(path + "nothing"), FileUse.Read, out var trouble).ShouldBeNull();
        trouble.Fault.ShouldBe(Fault.NotThere);
    }

    [Fact]
    public void What_is_forgotten_reads_as_it_was_and_comes_from_the_medium_once_that_has_it()
    {
        Write(Top, "file", "the tide tables");
        using var writer = Top.OpenFileAt(B("file"), FileUse.Write);
        using var reader = Top.OpenFileAt(B("file"), FileUse.Read);
        reader.Forget(15);
        Content(reader).ShouldBe("the tide tables");
        writer.Sync();
        var from = reader.Forget(15);
        from.ShouldBe(Top.ReadsFrom);
        Content(reader).ShouldBe("the tide tables");
    }

    [Fact]
    public void A_name_that_is_too_long_is_not_taken_for_one_that_is_not_there()
    {
        Top.TryFacts(B(new string('n', 300)), out var trouble).ShouldBeNull();
        trouble.Fault.ShouldBe(Fault.NameTooLong);
    }

    [Fact]
    public void No_folder_is_reached_through_a_link_however_it_is_opened()
    {
        Folder("inside").Dispose();
        Top.MakeLink(B("link"), B("inside"));
        foreach (var use in Enum.GetValues<FolderUse>())
        {
            Top.TryOpenFolder(B("link"), use, out var trouble).ShouldBeNull();
            trouble.Fault.ShouldBeOneOf(Fault.ThroughLink, Fault.NotAFolder);
        }
    }

    [Fact]
    public void What_was_opened_stays_what_it_is_whatever_bears_its_name_by_now()
    {
        using var folder = Folder("old");
        Top.TryRename(B("old"), Top, B("away"), replace: false, out _).ShouldBeTrue();
        using var other = Folder("old");
        Write(folder, "mine", "mine");
        other.Names().ShouldBeEmpty();
        Content("away/mine").ShouldBe("mine");
    }

    [Fact]
    public void Names_come_back_as_the_bytes_that_they_are()
    {
        byte[][] names = [B("é"), B("e\u0301"), [.. "f"u8, 0xFF, 0xFE], B("back\\slash"), B("line\nbreak"), B("~")];
        foreach (var name in names) Top.OpenFileAt(name, FileUse.MakeNew).Dispose();
        Top.Names().Select(Convert.ToHexString).ShouldBe(names.Select(Convert.ToHexString), ignoreOrder: true);
    }

    [Fact]
    public void A_folder_that_stays_open_is_listed_as_often_as_is_wanted_each_time_as_it_is()
    {
        Write(Top, "first", "");
        Top.Names().Count.ShouldBe(1);
        Write(Top, "second", "");
        Top.Names().Count.ShouldBe(2);
        Top.TryRemove(B("first"), isFolder: false, out _).ShouldBeTrue();
        Top.Names().Select(Encoding.UTF8.GetString).ShouldBe(["second"]);
    }

    [Fact]
    public void A_look_tells_of_each_name_what_is_told_when_it_is_asked_for()
    {
        Write(Top, "file", "four");
        Folder("folder").Dispose();
        Top.MakeLink(B("link"), B("nowhere"));
        var seen = new Dictionary<string, NodeFacts?>();
        Top.Look((name, facts, _) => seen.Add(Encoding.UTF8.GetString(name), facts));
        seen.Select(s => (s.Key, s.Value!.Value.Kind)).ShouldBe(
            [("file", NodeKind.File), ("folder", NodeKind.Folder), ("link", NodeKind.Link)], ignoreOrder: true);
        foreach (var (name, facts) in seen) Top.TryFacts(B(name), out _).ShouldBe(facts);
    }

    [Fact]
    public void A_file_without_a_name_gets_one_only_where_none_stands()
    {
        Write(Top, "taken", "theirs");
        using var file = Top.TryMakeUnnamed(out var none);
        if (file is null)
        {
            none.Fault.ShouldBe(Fault.NotSupported);
            return;
        }
        file.Write(0, "ours"u8);
        Top.Names().Count.ShouldBe(1);
        Top.TryGiveName(file, B("taken"), out var trouble).ShouldBeFalse();
        trouble.Fault.ShouldBe(Fault.Taken);
        Top.TryGiveName(file, B("ours"), out _).ShouldBeTrue();
        (Content("taken"), Content("ours")).ShouldBe(("theirs", "ours"));
    }

    [Theory, InlineData(false), InlineData(true)]
    public void A_new_name_replaces_what_stands_only_where_that_is_asked_for(bool replace)
    {
        using var folder = Folder("there");
        Write(Top, "one", "one");
        Write(folder, "one", "other");
        Top.TryRename(B("one"), folder, B("one"), replace, out var trouble).ShouldBe(replace);
        trouble.Fault.ShouldBe(replace ? Fault.None : Fault.Taken);
        Content("there/one").ShouldBe(replace ? "one" : "other");
        Top.TryFacts(B("one"), out _).HasValue.ShouldBe(!replace);
    }

    [Fact]
    public void A_further_name_is_the_same_file()
    {
        Write(Top, "one", "one");
        Top.TryHardLink(B("one"), Top, B("two"), out _).ShouldBeTrue();
        var (one, two) = (Top.TryFacts(B("one"), out _)!.Value, Top.TryFacts(B("two"), out _)!.Value);
        one.IsSameNodeAs(two).ShouldBeTrue();
        one.Links.ShouldBe(2u);
    }

    [Fact]
    public void Only_an_empty_folder_is_removed()
    {
        using (var folder = Folder("full")) Write(folder, "in", "it");
        Top.TryRemove(B("full"), isFolder: true, out var trouble).ShouldBeFalse();
        trouble.Fault.ShouldBe(Fault.NotEmpty);
        Top.TryRemove(B("full"), isFolder: false, out trouble).ShouldBeFalse();
        trouble.Fault.ShouldBeOneOf(Fault.IsAFolder, Fault.NotOwner);
        Content("full/in").ShouldBe("it");
    }

    [Fact]
    public void What_must_be_new_never_opens_what_stands()
    {
        Write(Top, "file", "theirs");
        Top.TryOpenFile(B("file"), FileUse.MakeNew, out var trouble).ShouldBeNull();
        trouble.Fault.ShouldBe(Fault.Taken);
    }

    [Fact]
    public void Holes_are_where_nothing_was_written_and_read_as_zeros()
    {
        const int Far = 40 << 20;
        using var file = Top.OpenFileAt(B("sparse"), FileUse.Read | FileUse.MakeNew);
        file.Write(Far, "end"u8);
        file.SetLength(Far * 2);
        var into = new byte[5];
        file.Read(Far - 1, into).ShouldBe(5);
        into.ShouldBe([0, .. "end"u8, 0]);
        file.Facts().Bytes.ShouldBe(Far * 2);
        // A file system that cannot tell says that all of it is data.
        if (file.DataStretches(Far * 2) is { } data)
            data.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
                d => d.Offset.ShouldBeLessThanOrEqualTo(Far), d => (d.Offset + d.Bytes).ShouldBeGreaterThanOrEqualTo(Far + 3));
    }

    [Fact]
    public void Times_modes_and_attributes_are_kept_and_an_access_is_left_alone()
    {
        var when = new Stamp(-12_345, 678_901_200);
        using (var file = Top.OpenFileAt(B("file"), FileUse.Read | FileUse.MakeNew))
        {
            file.TrySetAttribute("user.note", [1, 2]);
            file.SetMode(0x180);
            file.SetModified(when);
        }
        Top.MakeLink(B("link"), B("file"));
        Top.SetLinkModified(B("link"), when);
        using var again = Top.OpenFileAt(B("file"), FileUse.ReadQuietly);
        (again.Facts().Modified, again.Facts().Mode, Top.TryFacts(B("link"), out _)!.Value.Modified).ShouldBe((when, (ushort)0x180, when));
        if (again.Attributes() is { } kept) kept["user.note"].ShouldBe([1, 2]);
    }

    [Fact]
    public void A_link_says_what_is_written_in_it()
    {
        Top.MakeLink(B("link"), [.. "../no/where"u8, 0xFF]);
        Top.ReadLink(B("link")).ShouldBe([.. "../no/where"u8, 0xFF]);
    }

    [Fact]
    public void A_target_is_made_with_the_folders_on_the_way_to_it_and_a_file_in_the_way_is_said()
    {
        Write(Top, "file", "x");
        using (var made = (Root with { Path = Root.Path + "/a/b/c" }).TryMake(out _)) made.ShouldNotBeNull();
        Top.TryOpenFolder(B("a/b/c"), FolderUse.List, out _).ShouldNotBeNull().Dispose();
        (Root with { Path = Root.Path + "/file/b" }).TryMake(out var trouble).ShouldBeNull();
        trouble.Fault.ShouldBe(Fault.NotAFolder);
    }

    [Fact]
    public void A_file_system_says_how_much_it_holds()
    {
        var room = Top.Room();
        room.FreeBytes.ShouldBeInRange(1, room.Bytes);
        room.UsedBytes.ShouldBeInRange(0, room.Bytes);
    }

    public virtual void Dispose()
    {
        Top.Dispose();
        GC.SuppressFinalize(this);
    }
}

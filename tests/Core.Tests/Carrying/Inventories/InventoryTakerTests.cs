using CsCheck;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Tests.Carrying.Inventories;

public sealed class InventoryTakerTests
{
    private static readonly DateTimeOffset Then = new(2026, 11, 2, 9, 0, 0, TimeSpan.Zero);

    private static IReadOnlyDictionary<string, string> FoldersOf(Home home) => home.Platform switch
    {
        HomePlatform.Windows => UserFolders.OfWindows(null),
        HomePlatform.Mac => UserFolders.OfMac(),
        _ => UserFolders.OfLinux(null),
    };

    /// <summary>
    /// Walks paths as a tree reader would: in order, folders before what is in them. A path that ends in '/' is an empty folder.
    /// </summary>
    private static IReadOnlyList<PlaceFound> Take(
        IEnumerable<string> paths, PlaceRules? rules = null, Func<string, bool>? byNameOnly = null)
    {
        var all = paths.Select(p => p.Split('/'))
            .Order(Comparer<string[]>.Create((a, b) => string.CompareOrdinal(string.Join('\0', a), string.Join('\0', b)))).ToList();
        var names = all.SelectMany(p => Enumerable.Range(0, p.Length - 1).Select(i => (In: string.Join('/', p[..i]), Name: p[i])))
            .ToLookup(x => x.In, x => x.Name);
        var taker = new InventoryTaker(Homes.Find(path => names[path].ToHashSet()), FoldersOf, rules ?? PlaceRules.Standard);
        string[] at = [];
        foreach (var path in all)
        {
            var common = at.Zip(path[..^1]).TakeWhile(p => p.First == p.Second).Count();
            for (var i = common; i < path.Length - 1; i++) taker.Enter(path[i], i + 1);
            at = path[..^1];
            if (path[^1].Length > 0) taker.File(path[^1], path.Length, 10, byNameOnly?.Invoke(string.Join('/', path)) == true, Then);
        }
        return taker.Finish();
    }

    private static string Told(IEnumerable<PlaceFound> places) =>
        string.Join(
            "\n", places.Select(p => $"{(p.Account.Length > 0 ? p.Account + ": " : "")}{p.Kind} {p.Name} [{p.Path}] {p.Files.Files}"));

    [Fact]
    public void A_linux_home_is_told_by_its_places() => Told(Take([
        ".bashrc", ".cache/thumbs/1", ".config/dconf/user", ".config/libreoffice/4/user/wordbook/standard.dic",
        ".config/libreoffice/4/user/registry", ".config/odd/settings", ".mozilla/firefox/x1.default/places.sqlite",
        ".mozilla/firefox/x1.default/cache2/a",
        ".mozilla/firefox/profiles.ini", ".thunderbird/y.default/prefs.js", ".thunderbird/y.default/Mail/inbox", "Desktop/a", "Documents/b",
        "Documents/~$b", "Documents/c/d", "Music/iTunes/iTunes Library.itl", "Music/iTunes/song", "Music/other", "Timetables/t",
        "loose.txt"])).ShouldBe(
            """
        Folder Desktop [Desktop] 1
        Folder Documents [Documents] 2
        Folder Music [Music] 1
        Browser Firefox profile [.mozilla/firefox/x1.default] 1
        Settings Other settings [.config] 1
        Settings Desktop and its picture [.config/dconf] 1
        Settings LibreOffice settings [.config/libreoffice] 1
        Settings Dictionaries of one's own [.config/libreoffice/4/user/wordbook] 1
        Settings Other settings [.mozilla] 1
        Library Thunderbird mail [.thunderbird/y.default] 2
        Library iTunes library [Music/iTunes] 2
        Clutter Temporary files [] 1
        Clutter Caches [.cache] 1
        Clutter Caches of browsers [.mozilla/firefox/x1.default/cache2] 1
        Unusual Beside the folders [] 2
        Unusual Other folder [Timetables] 1
        """.ReplaceLineEndings("\n"));

    [Fact]
    public void A_whole_windows_disk_has_accounts_and_what_lies_outside_of_them() => Told(Take([
        "Users/ida/AppData/Local/Temp/x", "Users/ida/AppData/Roaming/Microsoft/Signatures/ida.htm", "Users/ida/appdata.txt",
        "Users/ida/documents/a", "Users/ida/OneDrive - Kestrel Bay/plan", "Users/ida/Desktop/Tool.LNK",
        "Users/per/Pictures/Holiday.photoslibrary/db", "Users/per/Pictures/Holiday.photoslibrary/desktop.ini", "Users/per/AppData/x",
        "Users/Public/Documents/p", "Windows/system", "Daten/1", "pagefile.sys"])).ShouldBe(
            """
        Clutter The system's own [Windows] 1
        Unusual Outside the homes [] 1
        Unusual Outside the homes [Daten] 1
        Unusual Outside the homes [Users] 1
        ida: Folder Documents [documents] 1
        ida: Settings Mail signatures [AppData/Roaming/Microsoft/Signatures] 1
        ida: Cloud OneDrive of the organisation [OneDrive - Kestrel Bay] 1
        ida: Clutter Shortcuts [] 1
        ida: Clutter Caches [AppData/Local/Temp] 1
        ida: Unusual Beside the folders [] 1
        per: Settings Other settings [AppData] 1
        per: Library Photo library [Pictures/Holiday.photoslibrary] 2
        """.ReplaceLineEndings("\n"));

    [Fact]
    public void A_mac_home_has_its_own_layout()
    {
        var places = Take([
            "Desktop/a", "Documents/b", "Movies/c", "Library/Mail/V10/x", "Library/Caches/y", "Library/Safari/Bookmarks.plist",
            "Library/Mobile Documents/com~apple~CloudDocs/z", "Library/Preferences/p"
        ]);
        Told(places).ShouldBe("""
            Folder Desktop [Desktop] 1
            Folder Documents [Documents] 1
            Folder Videos [Movies] 1
            Browser Safari bookmarks [Library/Safari] 1
            Settings Other settings [Library] 1
            Library Mail [Library/Mail] 1
            Cloud iCloud Drive [Library/Mobile Documents] 1
            Clutter Caches [Library/Caches] 1
            """.ReplaceLineEndings("\n"));
        places.Where(p => p.IsLeftOut).Select(p => p.Name).ShouldBe(["Caches"]);
    }

    [Fact]
    public void A_marker_tells_a_cloud_wherever_it_lies_and_says_what_is_there_by_name_only()
    {
        var cloud = Take(
            ["Documents/Team/.sync_1a.db", "Documents/Team/plan", "Documents/Team/deep/big.iso", "Documents/own"],
            byNameOnly: p => p.EndsWith(".iso", StringComparison.Ordinal)).Single(
            p =>
            p.Kind == PlaceKind.Cloud);
        (cloud.Path, cloud.Files.Files, cloud.ByNameOnly, cloud.Proof).ShouldBe((
            "Documents/Team", 3, new Amount(1, 10), "'.sync_1a.db' lies in it"));
    }

    [Fact]
    public void Two_libraries_of_one_kind_and_what_is_open_are_pointed_out()
    {
        var found = new ComputerFound(
            Take(["Desktop/x", "Pictures/A.photoslibrary/1", "Pictures/old/B.photoslibrary/1", "Pictures/B.photoslibrary/cache2/1"]),
            [],
            [new("Photos", 3), new("Clock", 0)]);
        var remarks = found.Remarks(Then);
        remarks.Count.ShouldBe(2);
        remarks[0].ShouldStartWith("There are 3 libraries of photos: Photo library in Pictures/A.photoslibrary");
        remarks[1].ShouldBe("Photos has 3 files open. Close it before the closing trip.");
        found.Remarks(Then).ShouldNotContain(r => r.Contains("Worth asking"), "nothing lies outside the usual folders");
    }

    [Fact]
    public void Each_file_counts_in_exactly_one_place_whatever_the_tree()
    {
        string[] names = [
            "Desktop", "Documents", "Users", "home", "ida", "AppData", "Library", "Mail", ".cache", "cache2", "Dropbox", ".dropbox",
            "a.photoslibrary", "OneDrive", "iTunes", "Music", "x.tmp", "x.lnk", "prefs.js", "inbox.mbox", "Windows", "data"
        ];
        Gen.Int[0, names.Length - 1].Select(i => names[i]).Array[1, 5].Select(p => string.Join('/', p)).Array[1, 40].Sample(paths =>
        {
            // A name is a file or a folder, not both.
            var folders = paths.SelectMany(p =>
                Enumerable.Range(0, p.Split('/').Length - 1).Select(i => string.Join('/', p.Split('/')[..(i + 1)]))).ToHashSet();
            var files = paths.Where(p => !folders.Contains(p)).Distinct().ToList();
            var places = Take(files.Concat(folders.Select(f => f + "/")));
            places.Sum(p => p.Files.Files).ShouldBe(files.Count);
            places.Sum(p => p.Files.Bytes).ShouldBe(10L * files.Count);
        }, iter: 2000);
    }

    [Fact]
    public void A_walk_leaves_out_on_its_way_just_what_a_survey_of_the_same_tree_found_to_stay_and_for_the_same_reason()
    {
        var rules = PlaceRules.Standard.With(PlaceRules.Read(
            "version: 1\nplaces:\n  - {key: team, kind: cloud, name: Team share, whose: team, anywhere: ['**/*'], marks: [.team.db], "
                + "keptThere: Kit saw it}\n").Value);
        string[] names = [
            "Desktop", "Documents", "Users", "home", "ida", "AppData", "Library", ".cache", "cache2", "Code Cache", ".team.db", "OneDrive",
            "a.photoslibrary", "iPhotoMain.db", "prefs.js", ".thunderbird", "startupCache", "usr", "Windows", ".local", "share", "Trash",
            ".thumbnails", "data"
        ];
        Gen.Int[0, names.Length - 1].Select(i => names[i]).Array[1, 6].Select(p => string.Join('/', p)).Array[1, 40].Sample(paths =>
        {
            var folders = paths.SelectMany(p =>
                Enumerable.Range(0, p.Split('/').Length - 1).Select(i => string.Join('/', p.Split('/')[..(i + 1)]))).ToHashSet();
            var files = paths.Where(p => !folders.Contains(p)).Distinct().ToList();
            var list = CarryList.Of(new(Take(files.Concat(folders.Select(f => f + "/")), rules), [], []));

            static (string In, string Name) Cut(string path) =>
                path.LastIndexOf('/') is > 0 and var cut ? (path[..cut], path[(cut + 1)..]) : ("", path);
            var inside = folders.Concat(files).Select(Cut).ToLookup(p => p.In, p => p.Name);
            var customs = new Customs(Homes.Find(path => inside[path].Where(n => folders.Contains(path.Length == 0 ? n : $"{path}/{n}"))
                .ToHashSet()), rules);
            Customs.Place At(string folder) => folder.Length == 0
                ? customs.Top
                : customs.Enter(
                    At(Cut(folder).In), Cut(folder).Name,
                    inside[folder].Where(n => customs.IsOfInterest(System.Text.Encoding.UTF8.GetBytes(n))));

            foreach (var file in files)
            {
                list.Of(file, isFolder: false, out var because);
                At(Cut(file).In).Because.ShouldBe(because, file);
            }
        }, iter: 3000);
    }
}

using System.IO.Enumeration;
using CsCheck;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Tests.Carrying.Inventories;

public sealed class PlaceRulesTests
{
    [Theory]
    [InlineData("Library/Mail", "Library/Mail", true, true)]
    [InlineData("Library/Mail", "library/mail", true, false)]
    [InlineData("Library/Mail", "library/mail", false, true)]
    [InlineData("Library/Mail", "Library/Mail/V2", true, false)]
    [InlineData("**/cache2", "a/b/cache2", true, true)]
    [InlineData("**/cache2", "cache2", true, true)]
    [InlineData("OneDrive - *", "OneDrive - Kestrel Bay", true, true)]
    [InlineData(".config/*/user", ".config/libreoffice/user", true, true)]
    [InlineData("**/Service Worker/CacheStorage", "x/Service Worker/CacheStorage", true, true)]
    [InlineData("**/Service Worker/CacheStorage", "x/Worker/CacheStorage", true, false)]
    [InlineData("v?-*x", "v1-abcx", true, true)]
    [InlineData("v?-*x", "v1-abc", true, false)]
    public void A_pattern_means_what_it_says(string pattern, string path, bool tellsCase, bool matches)
    {
        var parts = path.Split('/');
        PlacePattern.Parse(pattern).Value.Matches(parts, tellsCase).ShouldBe(matches);
        PlacePattern.Parse(pattern).Value.MatchesFile(parts[..^1], parts[^1], tellsCase).ShouldBe(matches);
    }

    [Fact]
    public void A_name_matches_as_the_platforms_own_expressions_do() =>
        Gen.Select(Gen.Char["aA.*?"].Array[1, 6], Gen.Char["aAb."].Array[1, 8], Gen.Bool).Sample(
            (pattern, name, tellsCase) => new NamePattern(new(pattern))
                .Matches(new(name), tellsCase)
                .ShouldBe(FileSystemName.MatchesSimpleExpression(new string(pattern), new string(name), ignoreCase: !tellsCase)),
            iter: 20_000);

    [Theory]
    [InlineData("a//b")]
    [InlineData("../b")]
    [InlineData("")]
    [InlineData("a/**/b")]
    public void A_pattern_that_leads_nowhere_is_refused(string pattern) =>
        PlacePattern.Parse(pattern).Problem.Message.ShouldContain("**/NAME for any depth");

    [Fact]
    public void Rules_of_ones_own_come_first_and_take_the_place_of_ours()
    {
        var own = PlaceRules.Read(
            "version: 1\nplaces:\n  - {key: timetables, kind: settings, name: Timetable program, needs: the timetable program, anywhere: "
                + "[Timetables]}\n  - {key: onedrive, kind: folder, name: OneDrive that is carried, anywhere: [OneDrive]}\n").Value;
        var all = PlaceRules.Standard.With(own);
        all.All.Count.ShouldBe(PlaceRules.Standard.All.Count + 1);
        all.All[0].Name.ShouldBe("Timetable program");
        all.All.Single(r => r.Key == "onedrive").Kind.ShouldBe(PlaceKind.Folder);
    }

    [Fact]
    public void All_that_is_wrong_with_rules_is_said_at_once()
    {
        var wrong = PlaceRules.Read(
            "version: 1\nplaces:\n  - {key: a, kind: attic, name: A, anywhere: [x]}\n  - {key: a, kind: cloud, name: B, anywhere: "
                + "['../x']}\n  - {kind: library, name: C, linux: [x]}\n").Problems
            .Select(p => p.Message).ToList();
        wrong.Count.ShouldBe(7);
        wrong[0].ShouldBe("Rule 1 'a': 'attic' is no kind of place. Use folder, browser, mail, settings, library, cloud or clutter.");
        wrong.ShouldContain("Rule 2 'a': it has no path. Give 'linux', 'windows', 'mac', or 'anywhere' for all three.");
        wrong.ShouldContain("Rule 3: a library says what it is a library 'of', such as photos.");
        // What would end the program that reads it is refused before.
        PlaceRules.Read("version: 1\nplaces: " + new string('[', 100_000)).Problem.Message.ShouldContain("levels deep");
        CarryList.Read("version: 1\ncarry: " + new string('[', 100_000)).Problem.Message.ShouldContain("levels deep");
        PlaceRules.Read("version: 2").Problem.Code.ShouldBe("places.version");
        PlaceRules.Read("version: 1\nplaces: [{key: a, kimd: b}]").Problem.Message
            .ShouldBe(
                "The rules cannot be read: line 2: 'kimd' is not known here. Use key, kind, name, anywhere, linux, windows, mac, marks, "
                    + "files, needs, whose, of or keptThere.");
        PlaceRules.Read("version: 1\nplaces: [{key: a, kind: clutter, name: A, anywhere: [x], keptThere: Kit}]").Problem.Message
            .ShouldContain("'keptThere' is for a cloud");
        PlaceRules.Read("version: 1\nplaces: [{key: a, marks: x}]").Problem.Message.ShouldContain("line 2: A list is expected here.");
        PlaceRules.Read(": [").Problem.Code.ShouldBe("places.form");
    }

    [Fact]
    public void Folders_go_by_the_names_that_the_platform_gave_them()
    {
        var german = UserFolders.OfLinux(
            "# user-dirs\nXDG_DESKTOP_DIR=\"$HOME/Schreibtisch\"\nXDG_DOCUMENTS_DIR=\"$HOME/Dokumente\"\nXDG_MUSIC_DIR=\"$HOME/\"\n"
                + "XDG_VIDEOS_DIR=\"/srv/videos\"\n");
        german["Schreibtisch"].ShouldBe("Desktop");
        german["Dokumente"].ShouldBe("Documents");
        german["Videos"].ShouldBe("Videos", "a value elsewhere than below the home does not count");
        german.ContainsKey("Music").ShouldBeFalse("it was switched off");
        german.ContainsKey("Desktop").ShouldBeFalse();
        UserFolders.OfLinux(null)["Downloads"].ShouldBe("Downloads");
        var moved = UserFolders.OfWindows(new Dictionary<string, string>
        {
            ["Desktop"] = "%USERPROFILE%\\OneDrive - Kestrel Bay\\Desktop",
            ["Personal"] = "D:\\Documents",
            ["My Pictures"] = "%USERPROFILE%\\Bilder"
        });
        moved["OneDrive - Kestrel Bay/Desktop"].ShouldBe("Desktop");
        moved["bilder"].ShouldBe("Pictures");
        moved.Values.ShouldNotContain("Documents");
        UserFolders.OfMac()["movies"].ShouldBe("Videos");
    }

    [Fact]
    public void Programs_are_read_from_what_each_platform_writes()
    {
        InstalledPrograms.OfDpkg("""
            Package: gimp
            Status: install ok installed
            Priority: optional
            Section: graphics
            Version: 2.10.34-1
            Description: The picture editor
             with: a long text

            Package: libc6
            Status: install ok installed
            Section: libs
            Version: 2.36

            Package: gone
            Status: deinstall ok config-files
            Section: graphics
            Version: 1

            """.ReplaceLineEndings("\n")).ShouldBe([new("gimp", "2.10.34-1", "dpkg")]);
        InstalledPrograms.OfRegistry("""
            Windows Registry Editor Version 5.00

            [HKEY_LOCAL_MACHINE\SOFTWARE\Microsoft\Windows\CurrentVersion\Uninstall\{1}]
            "DisplayName"="Chart \"Deluxe\""
            "DisplayVersion"="4.2"

            [HKEY_LOCAL_MACHINE\SOFTWARE\Microsoft\Windows\CurrentVersion\Uninstall\{2}]
            "DisplayName"="Part of the system"
            "SystemComponent"=dword:00000001

            [HKEY_LOCAL_MACHINE\SOFTWARE\Other]
            "DisplayName"="No program"
            """.ReplaceLineEndings("\r\n")).ShouldBe([new("Chart \"Deluxe\"", "4.2", "registry")]);
        InstalledPrograms.OfInfoPlist(
            """
            <?xml version="1.0"?>
            <!DOCTYPE plist PUBLIC "-//Apple//DTD PLIST 1.0//EN" "http://www.apple.com/DTDs/PropertyList-1.0.dtd">
            <plist version="1.0"><dict><key>CFBundleName</key><string>Charts</string><key>LSUIElement</key><true/>
            <key>CFBundleShortVersionString</key><string>3.1</string></dict></plist>
            """)
            .ShouldBe(new("Charts", "3.1", "application"));
        InstalledPrograms.OfInfoPlist("bplist00").ShouldBeNull();
    }
}

using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Paper;

internal sealed record ReportFontsProblem() : ServiceProblem(
    "report.fonts",
    "The computer of the service lacks the fonts for paper. Install the package fonts-dejavu-core there; page and table have all of "
        + "it already.", 503);

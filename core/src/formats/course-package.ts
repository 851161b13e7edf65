import { markupText } from './markup-text';

/**
 * The list of what is in a package for course systems, `imsmanifest.xml`: one lesson, one page (ADL SCORM 1.2 Content Aggregation
 * Model, section 2.3; IMS Content Packaging 1.1.2).
 * @param id letters, digits, `-` and `_`
 * @param page the page's name in the package
 */
export function writeCourseManifest({ id, title, page }: { id: string; title: string; page: string }): string {
  const name = markupText(title);
  return `<?xml version="1.0" encoding="UTF-8"?>
<manifest identifier="lesson-${id}" version="1.0"
  xmlns="http://www.imsproject.org/xsd/imscp_rootv1p1p2"
  xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_rootv1p2"
  xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"
  xsi:schemaLocation="http://www.imsproject.org/xsd/imscp_rootv1p1p2 imscp_rootv1p1p2.xsd http://www.adlnet.org/xsd/adlcp_rootv1p2 adlcp_rootv1p2.xsd">
  <metadata>
    <schema>ADL SCORM</schema>
    <schemaversion>1.2</schemaversion>
  </metadata>
  <organizations default="organization">
    <organization identifier="organization">
      <title>${name}</title>
      <item identifier="item" identifierref="resource">
        <title>${name}</title>
      </item>
    </organization>
  </organizations>
  <resources>
    <resource identifier="resource" type="webcontent" adlcp:scormtype="sco" href="${page}">
      <file href="${page}"/>
    </resource>
  </resources>
</manifest>
`;
}

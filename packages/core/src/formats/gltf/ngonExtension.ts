import {
  Extension,
  ExtensionProperty,
  PropertyType,
  type ReaderContext,
  type WriterContext,
} from '@gltf-transform/core';

export const NGON = 'FB_ngon_encoding';

/** Marks a primitive whose triangles are ordered as fans of polygons. */
export class NgonMark extends ExtensionProperty {
  static override EXTENSION_NAME = NGON;
  declare extensionName: typeof NGON;
  declare propertyType: 'NgonMark';
  declare parentTypes: PropertyType[];
  protected override init(): void {
    this.extensionName = NGON;
    this.propertyType = 'NgonMark';
    this.parentTypes = [PropertyType.PRIMITIVE];
  }
}

/** The vendor extension by which polygons survive in glTF's triangles. */
export class NgonEncoding extends Extension {
  static override readonly EXTENSION_NAME = NGON;
  override readonly extensionName = NGON;
  createMark(): NgonMark {
    return new NgonMark(this.document.getGraph());
  }
  override read(context: ReaderContext): this {
    (context.jsonDoc.json.meshes ?? []).forEach((def, i) =>
      def.primitives.forEach((primitive, k) => {
        if (primitive.extensions?.[NGON]) context.meshes[i].listPrimitives()[k].setExtension(NGON, this.createMark());
      }),
    );
    return this;
  }
  override write(context: WriterContext): this {
    const { json } = context.jsonDoc;
    for (const mesh of this.document.getRoot().listMeshes()) {
      const def = (json.meshes ?? [])[context.meshIndexMap.get(mesh) as number];
      mesh.listPrimitives().forEach((primitive, k) => {
        if (primitive.getExtension(NGON))
          def.primitives[k].extensions = { ...def.primitives[k].extensions, [NGON]: {} };
      });
    }
    return this;
  }
}

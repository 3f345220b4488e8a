//! The table of longhands: name, inheritance, initial value, grammar; and the logical properties that map to them.

use super::chromium::{self, Unlearned};
use super::grammar::Grammar;
use super::grammar::Grammar::*;
use super::known_names::KNOWN_NAMES;
use super::shorthand::{SHORTHANDS, Shorthand};
use super::words::*;
use std::sync::LazyLock;

macro_rules! longhands {
    ($($id:ident $name:literal $inherited:literal $initial:literal $grammar:expr;)*) => {
        /// A longhand that is modelled.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        #[allow(missing_docs)]
        pub enum Longhand { $($id),* }

        impl Longhand {
            /// Every longhand, in the order of the table.
            pub const ALL: &'static [Longhand] = &[$(Longhand::$id),*];

            fn row(self) -> &'static Row {
                &ROWS[self as usize]
            }
        }

        static ROWS: &[Row] = &[$(Row { name: $name, inherited: $inherited, initial: $initial, grammar: $grammar }),*];
    };
}

struct Row {
    name: &'static str,
    inherited: bool,
    initial: &'static str,
    grammar: Grammar,
}

// `user-select` is not inherited by CSS UI 4, but its `auto` takes the parent's value, which comes to the same.
longhands! {
    AccentColor "accent-color" true "auto" ColorOr(&["auto"]);
    AlignContent "align-content" false "normal" Align(CONTENT_ALIGN);
    AlignItems "align-items" false "normal" Align(ITEM_ALIGN);
    AlignSelf "align-self" false "auto" Align(SELF_ALIGN);
    AnimationName "animation-name" false "none" AnimationNames;
    AnimationDuration "animation-duration" false "0s" CommaOf(&Duration { auto: true });
    AnimationTimingFunction "animation-timing-function" false "ease" CommaEasings;
    AnimationDelay "animation-delay" false "0s" CommaTimes;
    AnimationIterationCount "animation-iteration-count" false "1" CommaOf(&NumberOr { keywords: &["infinite"], min: 0.0 });
    AnimationDirection "animation-direction" false "normal" CommaOf(&Keywords(&["normal", "reverse", "alternate", "alternate-reverse"]));
    AnimationFillMode "animation-fill-mode" false "none" CommaOf(&Keywords(&["none", "forwards", "backwards", "both"]));
    AnimationPlayState "animation-play-state" false "running" CommaOf(&Keywords(&["running", "paused"]));
    Appearance "appearance" false "none" Keywords(&["none", "auto", "base-select", "button", "checkbox", "listbox", "menulist", "menulist-button", "meter", "progress-bar", "radio", "searchfield", "textarea", "textfield"]);
    BackdropFilter "backdrop-filter" false "none" Grammar::Filter;
    BackgroundAttachment "background-attachment" false "scroll" CommaOf(&Keywords(&["scroll", "fixed", "local"]));
    BackgroundClip "background-clip" false "border-box" CommaOf(&Keywords(&["border-box", "padding-box", "content-box", "text", "border-area"]));
    BackgroundColor "background-color" false "transparent" Grammar::Color;
    BackgroundImage "background-image" false "none" CommaOf(&Image);
    BackgroundOrigin "background-origin" false "padding-box" CommaOf(&Keywords(BOXES));
    BackgroundPositionX "background-position-x" false "0%" CommaOf(&Position(&["left", "center", "right"]));
    BackgroundPositionY "background-position-y" false "0%" CommaOf(&Position(&["top", "center", "bottom"]));
    BackgroundRepeat "background-repeat" false "repeat" CommaOf(&Repeat);
    BackgroundSize "background-size" false "auto" CommaOf(&Size);
    BorderTopColor "border-top-color" false "currentcolor" Grammar::Color;
    BorderRightColor "border-right-color" false "currentcolor" Grammar::Color;
    BorderBottomColor "border-bottom-color" false "currentcolor" Grammar::Color;
    BorderLeftColor "border-left-color" false "currentcolor" Grammar::Color;
    BorderTopStyle "border-top-style" false "none" Keywords(LINE_STYLES);
    BorderRightStyle "border-right-style" false "none" Keywords(LINE_STYLES);
    BorderBottomStyle "border-bottom-style" false "none" Keywords(LINE_STYLES);
    BorderLeftStyle "border-left-style" false "none" Keywords(LINE_STYLES);
    BorderTopWidth "border-top-width" false "medium" LineWidth;
    BorderRightWidth "border-right-width" false "medium" LineWidth;
    BorderBottomWidth "border-bottom-width" false "medium" LineWidth;
    BorderLeftWidth "border-left-width" false "medium" LineWidth;
    BorderTopLeftRadius "border-top-left-radius" false "0px" Radius;
    BorderTopRightRadius "border-top-right-radius" false "0px" Radius;
    BorderBottomRightRadius "border-bottom-right-radius" false "0px" Radius;
    BorderBottomLeftRadius "border-bottom-left-radius" false "0px" Radius;
    BorderImageSource "border-image-source" false "none" Image;
    Bottom "bottom" false "auto" Length { percent: true, negative: true, keywords: &["auto"] };
    BoxShadow "box-shadow" false "none" Shadows { inset: true };
    BoxSizing "box-sizing" false "content-box" Keywords(&["content-box", "border-box"]);
    CaretColor "caret-color" true "auto" ColorOr(&["auto"]);
    ClipPath "clip-path" false "none" Grammar::ClipPath;
    Color "color" true "CanvasText" Grammar::Color;
    ColorScheme "color-scheme" true "normal" SchemeWords;
    ColumnGap "column-gap" false "normal" Length { percent: true, negative: false, keywords: &["normal"] };
    Content "content" false "normal" ContentList;
    Cursor "cursor" true "auto" Grammar::Cursor;
    Direction "direction" true "ltr" Keywords(&["ltr", "rtl"]);
    Display "display" false "inline" DisplayWords;
    Fill "fill" true "black" Grammar::Paint;
    Filter "filter" false "none" Grammar::Filter;
    FlexBasis "flex-basis" false "auto" Length { percent: true, negative: false, keywords: &["auto", "content", "min-content", "max-content", "fit-content", "stretch"] };
    FlexDirection "flex-direction" false "row" Keywords(&["row", "row-reverse", "column", "column-reverse"]);
    FlexGrow "flex-grow" false "0" NumberOr { keywords: &[], min: 0.0 };
    FlexShrink "flex-shrink" false "1" NumberOr { keywords: &[], min: 0.0 };
    FlexWrap "flex-wrap" false "nowrap" Keywords(&["nowrap", "wrap", "wrap-reverse", "balance"]);
    Float "float" false "none" Keywords(&["none", "left", "right", "inline-start", "inline-end"]);
    FontFamily "font-family" true "\"Times New Roman\"" Families;
    FontSize "font-size" true "medium" Length { percent: true, negative: false, keywords: FONT_SIZES };
    FontStyle "font-style" true "normal" Grammar::FontStyle;
    FontWeight "font-weight" true "normal" Grammar::FontWeight;
    ForcedColorAdjust "forced-color-adjust" true "auto" Keywords(&["auto", "none", "preserve-parent-color"]);
    Height "height" false "auto" BoxSize;
    Isolation "isolation" false "auto" Keywords(&["auto", "isolate"]);
    JustifyContent "justify-content" false "normal" Align(JUSTIFY_CONTENT);
    JustifyItems "justify-items" false "normal" Align(ITEM_ALIGN);
    JustifySelf "justify-self" false "auto" Align(SELF_ALIGN);
    Left "left" false "auto" Length { percent: true, negative: true, keywords: &["auto"] };
    LetterSpacing "letter-spacing" true "normal" Length { percent: true, negative: true, keywords: &["normal"] };
    LineHeight "line-height" true "normal" LineHeight;
    ListStyleImage "list-style-image" true "none" Image;
    ListStylePosition "list-style-position" true "outside" Keywords(&["inside", "outside"]);
    ListStyleType "list-style-type" true "disc" Grammar::ListStyle;
    MarginBottom "margin-bottom" false "0px" Length { percent: true, negative: true, keywords: &["auto"] };
    MarginLeft "margin-left" false "0px" Length { percent: true, negative: true, keywords: &["auto"] };
    MarginRight "margin-right" false "0px" Length { percent: true, negative: true, keywords: &["auto"] };
    MarginTop "margin-top" false "0px" Length { percent: true, negative: true, keywords: &["auto"] };
    MaxHeight "max-height" false "none" MaxSize;
    MaxWidth "max-width" false "none" MaxSize;
    MinHeight "min-height" false "auto" BoxSize;
    MinWidth "min-width" false "auto" BoxSize;
    MixBlendMode "mix-blend-mode" false "normal" Keywords(BLEND_MODES);
    Opacity "opacity" false "1" Alpha;
    Order "order" false "0" Integer(&[]);
    OutlineColor "outline-color" false "currentcolor" ColorOr(&["-webkit-focus-ring-color"]);
    OutlineOffset "outline-offset" false "0px" Length { percent: false, negative: true, keywords: &[] };
    OutlineStyle "outline-style" false "none" Keywords(OUTLINE_STYLES);
    OutlineWidth "outline-width" false "medium" LineWidth;
    OverflowX "overflow-x" false "visible" Keywords(OVERFLOW);
    OverflowY "overflow-y" false "visible" Keywords(OVERFLOW);
    OverflowWrap "overflow-wrap" true "normal" Keywords(&["normal", "break-word", "anywhere"]);
    PaddingBottom "padding-bottom" false "0px" Length { percent: true, negative: false, keywords: &[] };
    PaddingLeft "padding-left" false "0px" Length { percent: true, negative: false, keywords: &[] };
    PaddingRight "padding-right" false "0px" Length { percent: true, negative: false, keywords: &[] };
    PaddingTop "padding-top" false "0px" Length { percent: true, negative: false, keywords: &[] };
    PointerEvents "pointer-events" true "auto" Keywords(&["auto", "none", "visiblepainted", "visiblefill", "visiblestroke", "visible", "painted", "fill", "stroke", "all", "bounding-box"]);
    Position "position" false "static" Keywords(&["static", "relative", "absolute", "fixed", "sticky"]);
    Resize "resize" false "none" Keywords(&["none", "both", "horizontal", "vertical", "block", "inline"]);
    Right "right" false "auto" Length { percent: true, negative: true, keywords: &["auto"] };
    Rotate "rotate" false "none" RotateWords;
    RowGap "row-gap" false "normal" Length { percent: true, negative: false, keywords: &["normal"] };
    Scale "scale" false "none" ScaleWords;
    TextAlign "text-align" true "start" Keywords(&["start", "end", "left", "right", "center", "justify", "match-parent", "-webkit-center", "-webkit-left", "-webkit-right", "-stilk-center"]);
    TextDecorationColor "text-decoration-color" false "currentcolor" Grammar::Color;
    TextDecorationLine "text-decoration-line" false "none" LineWords;
    TextDecorationStyle "text-decoration-style" false "solid" Keywords(&["solid", "double", "dotted", "dashed", "wavy"]);
    TextDecorationThickness "text-decoration-thickness" false "auto" Length { percent: true, negative: true, keywords: &["auto", "from-font"] };
    TextIndent "text-indent" true "0px" Grammar::Indent;
    TextOverflow "text-overflow" false "clip" Keywords(&["clip", "ellipsis"]);
    TextRendering "text-rendering" true "auto" Keywords(&["auto", "optimizespeed", "optimizelegibility", "geometricprecision"]);
    TextShadow "text-shadow" true "none" Shadows { inset: false };
    TextTransform "text-transform" true "none" SomeOf(&["none", "capitalize", "uppercase", "lowercase", "full-width", "full-size-kana", "math-auto"]);
    TextUnderlineOffset "text-underline-offset" true "auto" Length { percent: true, negative: true, keywords: &["auto"] };
    TextWrapMode "text-wrap-mode" true "wrap" Keywords(&["wrap", "nowrap"]);
    Top "top" false "auto" Length { percent: true, negative: true, keywords: &["auto"] };
    TouchAction "touch-action" false "auto" SomeOf(&["auto", "none", "pan-x", "pan-left", "pan-right", "pan-y", "pan-up", "pan-down", "pinch-zoom", "manipulation"]);
    Transform "transform" false "none" Grammar::Transform;
    TransitionProperty "transition-property" false "all" CommaIdents;
    TransitionDuration "transition-duration" false "0s" CommaOf(&Duration { auto: false });
    TransitionTimingFunction "transition-timing-function" false "ease" CommaEasings;
    TransitionDelay "transition-delay" false "0s" CommaTimes;
    TransitionBehavior "transition-behavior" false "normal" CommaOf(&Keywords(&["normal", "allow-discrete"]));
    Translate "translate" false "none" TranslateWords;
    UnicodeBidi "unicode-bidi" false "normal" Keywords(&["normal", "embed", "isolate", "bidi-override", "isolate-override", "plaintext"]);
    UserSelect "user-select" true "auto" Keywords(&["auto", "none", "text", "all"]);
    VerticalAlign "vertical-align" false "baseline" Length { percent: true, negative: true, keywords: &["baseline", "sub", "super", "top", "text-top", "middle", "bottom", "text-bottom", "-webkit-baseline-middle"] };
    Visibility "visibility" true "visible" Keywords(&["visible", "hidden", "collapse"]);
    WhiteSpaceCollapse "white-space-collapse" true "collapse" Keywords(&["collapse", "preserve", "preserve-breaks", "break-spaces"]);
    Width "width" false "auto" BoxSize;
    WillChange "will-change" false "auto" CommaIdents;
    WordBreak "word-break" true "normal" Keywords(&["normal", "break-all", "keep-all", "break-word", "auto-phrase"]);
    WordSpacing "word-spacing" true "normal" Length { percent: true, negative: true, keywords: &["normal"] };
    WritingMode "writing-mode" true "horizontal-tb" Keywords(&["horizontal-tb", "vertical-rl", "vertical-lr", "sideways-rl", "sideways-lr"]);
    Zoom "zoom" false "1" Grammar::Zoom;
    ZIndex "z-index" false "auto" Integer(&["auto"]);
    AnimationComposition "animation-composition" false "replace" CommaOf(&Keywords(&["replace", "add", "accumulate"]));
    AspectRatio "aspect-ratio" false "auto" Grammar::AspectRatio;
    BackfaceVisibility "backface-visibility" false "visible" Keywords(&["visible", "hidden"]);
    BackgroundBlendMode "background-blend-mode" false "normal" CommaOf(&Keywords(BLEND_MODES));
    BorderCollapse "border-collapse" true "separate" Keywords(&["separate", "collapse"]);
    BreakAfter "break-after" false "auto" Keywords(BREAKS);
    BreakBefore "break-before" false "auto" Keywords(BREAKS);
    BreakInside "break-inside" false "auto" Keywords(&["auto", "avoid", "avoid-page", "avoid-column"]);
    CaptionSide "caption-side" true "top" Keywords(&["top", "bottom"]);
    Clear "clear" false "none" Keywords(&["none", "left", "right", "both", "inline-start", "inline-end"]);
    ColumnCount "column-count" false "auto" Count { keywords: &["auto"], most: 65535.0 };
    ColumnFill "column-fill" false "balance" Keywords(&["balance", "auto"]);
    ColumnRuleColor "column-rule-color" false "currentcolor" Grammar::Color;
    ColumnRuleStyle "column-rule-style" false "none" Keywords(LINE_STYLES);
    ColumnRuleWidth "column-rule-width" false "medium" LineWidth;
    ColumnSpan "column-span" false "none" Keywords(&["none", "all"]);
    ColumnWidth "column-width" false "auto" Length { percent: false, negative: false, keywords: &["auto"] };
    Contain "contain" false "none" Grammar::Words(&["none", "strict", "content", "size", "layout", "style", "paint", "inline-size"]);
    ContainerName "container-name" false "none" Names;
    ContainerType "container-type" false "normal" Keywords(&["normal", "size", "inline-size", "scroll-state"]);
    ContentVisibility "content-visibility" false "visible" Keywords(&["visible", "auto", "hidden"]);
    CounterIncrement "counter-increment" false "none" Grammar::Words(&["none"]);
    CounterReset "counter-reset" false "none" Grammar::Words(&["none"]);
    CounterSet "counter-set" false "none" Grammar::Words(&["none"]);
    EmptyCells "empty-cells" true "show" Keywords(&["show", "hide"]);
    FieldSizing "field-sizing" false "fixed" Keywords(&["fixed", "content"]);
    FillOpacity "fill-opacity" true "1" Alpha;
    FillRule "fill-rule" true "nonzero" Keywords(&["nonzero", "evenodd"]);
    FontFeatureSettings "font-feature-settings" true "normal" Grammar::FontTags(&Grammar::FontFeature);
    FontKerning "font-kerning" true "auto" Keywords(&["auto", "normal", "none"]);
    FontOpticalSizing "font-optical-sizing" true "auto" Keywords(&["auto", "none"]);
    FontSizeAdjust "font-size-adjust" true "none" Grammar::Words(&["none"]);
    FontStretch "font-stretch" true "100%" Grammar::FontStretch;
    FontVariantCaps "font-variant-caps" true "normal" Keywords(&["normal", "small-caps", "all-small-caps", "petite-caps", "all-petite-caps", "unicase", "titling-caps"]);
    FontVariantNumeric "font-variant-numeric" true "normal" SomeOf(&["normal", "lining-nums", "oldstyle-nums", "proportional-nums", "tabular-nums", "diagonal-fractions", "stacked-fractions", "ordinal", "slashed-zero"]);
    FontVariantPosition "font-variant-position" true "normal" Keywords(&["normal", "sub", "super"]);
    FontVariationSettings "font-variation-settings" true "normal" Grammar::FontTags(&Grammar::FontAxis);
    GridAutoFlow "grid-auto-flow" false "row" SomeOf(&["row", "column", "dense"]);
    GridAutoColumns "grid-auto-columns" false "auto" Grammar::AutoTracks;
    GridAutoRows "grid-auto-rows" false "auto" Grammar::AutoTracks;
    GridColumnEnd "grid-column-end" false "auto" Grammar::GridLine;
    GridColumnStart "grid-column-start" false "auto" Grammar::GridLine;
    GridRowEnd "grid-row-end" false "auto" Grammar::GridLine;
    GridRowStart "grid-row-start" false "auto" Grammar::GridLine;
    GridTemplateAreas "grid-template-areas" false "none" Grammar::Areas;
    GridTemplateColumns "grid-template-columns" false "none" Tracks;
    GridTemplateRows "grid-template-rows" false "none" Tracks;
    Hyphens "hyphens" true "manual" Keywords(&["none", "manual", "auto"]);
    ImageRendering "image-rendering" true "auto" Keywords(&["auto", "smooth", "pixelated", "crisp-edges"]);
    LineBreak "line-break" true "auto" Keywords(&["auto", "loose", "normal", "strict", "anywhere", "after-white-space"]);
    MaskImage "mask-image" false "none" CommaOf(&Image);
    ObjectFit "object-fit" false "fill" Keywords(&["fill", "contain", "cover", "none", "scale-down"]);
    ObjectPosition "object-position" false "50% 50%" PositionPair;
    Orphans "orphans" true "2" Count { keywords: &[], most: 32767.0 };
    OverflowAnchor "overflow-anchor" false "auto" Keywords(&["auto", "none", "visible"]);
    OverscrollBehaviorX "overscroll-behavior-x" false "auto" Keywords(&["auto", "contain", "none"]);
    OverscrollBehaviorY "overscroll-behavior-y" false "auto" Keywords(&["auto", "contain", "none"]);
    Perspective "perspective" false "none" Length { percent: false, negative: false, keywords: &["none"] };
    PrintColorAdjust "print-color-adjust" true "economy" Keywords(&["economy", "exact"]);
    ScrollBehavior "scroll-behavior" false "auto" Keywords(&["auto", "smooth"]);
    ScrollMarginBottom "scroll-margin-bottom" false "0px" Length { percent: false, negative: true, keywords: &[] };
    ScrollMarginLeft "scroll-margin-left" false "0px" Length { percent: false, negative: true, keywords: &[] };
    ScrollMarginRight "scroll-margin-right" false "0px" Length { percent: false, negative: true, keywords: &[] };
    ScrollMarginTop "scroll-margin-top" false "0px" Length { percent: false, negative: true, keywords: &[] };
    ScrollPaddingBottom "scroll-padding-bottom" false "auto" Length { percent: true, negative: false, keywords: &["auto"] };
    ScrollPaddingLeft "scroll-padding-left" false "auto" Length { percent: true, negative: false, keywords: &["auto"] };
    ScrollPaddingRight "scroll-padding-right" false "auto" Length { percent: true, negative: false, keywords: &["auto"] };
    ScrollPaddingTop "scroll-padding-top" false "auto" Length { percent: true, negative: false, keywords: &["auto"] };
    ScrollbarColor "scrollbar-color" true "auto" ColorPair;
    ScrollbarGutter "scrollbar-gutter" false "auto" SomeOf(&["auto", "stable", "both-edges"]);
    ScrollbarWidth "scrollbar-width" false "auto" Keywords(&["auto", "thin", "none"]);
    Stroke "stroke" true "none" Grammar::Paint;
    StrokeLinecap "stroke-linecap" true "butt" Keywords(&["butt", "round", "square"]);
    StrokeLinejoin "stroke-linejoin" true "miter" Keywords(&["miter", "round", "bevel"]);
    StrokeOpacity "stroke-opacity" true "1" Alpha;
    StrokeWidth "stroke-width" true "1px" Grammar::StrokeWidth;
    TabSize "tab-size" true "8" Grammar::TabSize;
    TableLayout "table-layout" false "auto" Keywords(&["auto", "fixed"]);
    TextAlignLast "text-align-last" true "auto" Keywords(&["auto", "start", "end", "left", "right", "center", "justify"]);
    TextDecorationSkipInk "text-decoration-skip-ink" true "auto" Keywords(&["auto", "none", "all"]);
    TextUnderlinePosition "text-underline-position" true "auto" Grammar::Words(&["auto", "from-font", "under", "left", "right"]);
    TextWrapStyle "text-wrap-style" true "auto" Keywords(&["auto", "balance", "pretty", "stable"]);
    TransformOrigin "transform-origin" false "50% 50%" Grammar::Origin;
    TransformStyle "transform-style" false "flat" Keywords(&["flat", "preserve-3d"]);
    Widows "widows" true "2" Count { keywords: &[], most: 32767.0 };
    BorderHorizontalSpacing "-webkit-border-horizontal-spacing" true "0px" Length { percent: false, negative: false, keywords: &[] };
    BorderVerticalSpacing "-webkit-border-vertical-spacing" true "0px" Length { percent: false, negative: false, keywords: &[] };
    BorderImageOutset "border-image-outset" false "0" Grammar::ImageOutset;
    BorderImageRepeat "border-image-repeat" false "stretch" Grammar::ImageRepeat;
    BorderImageSlice "border-image-slice" false "100%" Grammar::ImageSlice;
    BorderImageWidth "border-image-width" false "1" Grammar::ImageWidth;
    BoxAlign "-webkit-box-align" false "stretch" Keywords(&["stretch", "start", "end", "center", "baseline"]);
    BoxDecorationBreak "box-decoration-break" false "slice" Keywords(&["slice", "clone"]);
    BoxDirection "-webkit-box-direction" false "normal" Keywords(&["normal", "reverse"]);
    BoxFlex "-webkit-box-flex" false "0" NumberOr { keywords: &[], min: f64::NEG_INFINITY };
    BoxOrdinalGroup "-webkit-box-ordinal-group" false "1" Count { keywords: &[], most: 4294967295.0 };
    BoxOrient "-webkit-box-orient" false "horizontal" Keywords(&["horizontal", "vertical"]);
    BoxPack "-webkit-box-pack" false "start" Keywords(&["start", "end", "center", "justify"]);
    Clip "clip" false "auto" Grammar::ClipRect;
    ClipRule "clip-rule" true "nonzero" Keywords(&["nonzero", "evenodd"]);
    ColorInterpolation "color-interpolation" true "srgb" Keywords(&["auto", "srgb", "linearrgb"]);
    ColorInterpolationFilters "color-interpolation-filters" true "linearrgb" Keywords(&["auto", "srgb", "linearrgb"]);
    ContainIntrinsicHeight "contain-intrinsic-height" false "none" Grammar::IntrinsicSize;
    ContainIntrinsicWidth "contain-intrinsic-width" false "none" Grammar::IntrinsicSize;
    DominantBaseline "dominant-baseline" true "auto" Keywords(&["auto", "alphabetic", "central", "hanging", "ideographic", "mathematical", "middle", "no-change", "reset-size", "text-after-edge", "text-before-edge", "use-script"]);
    FloodColor "flood-color" false "black" Grammar::Color;
    FloodOpacity "flood-opacity" false "1" Alpha;
    FontSmoothing "-webkit-font-smoothing" true "auto" Keywords(&["auto", "none", "antialiased", "subpixel-antialiased"]);
    FontSynthesisSmallCaps "font-synthesis-small-caps" true "auto" Keywords(&["auto", "none"]);
    FontSynthesisStyle "font-synthesis-style" true "auto" Keywords(&["auto", "none"]);
    FontSynthesisWeight "font-synthesis-weight" true "auto" Keywords(&["auto", "none"]);
    FontVariantAlternates "font-variant-alternates" true "normal" Grammar::Words(&["normal", "historical-forms"]);
    FontVariantEastAsian "font-variant-east-asian" true "normal" SomeOf(&["normal", "jis78", "jis83", "jis90", "jis04", "simplified", "traditional", "full-width", "proportional-width", "ruby"]);
    FontVariantEmoji "font-variant-emoji" true "normal" Keywords(&["normal", "text", "emoji", "unicode"]);
    FontVariantLigatures "font-variant-ligatures" true "normal" SomeOf(&["normal", "none", "common-ligatures", "no-common-ligatures", "discretionary-ligatures", "no-discretionary-ligatures", "historical-ligatures", "no-historical-ligatures", "contextual", "no-contextual"]);
    HyphenateCharacter "hyphenate-character" true "auto" Grammar::StringOr("auto");
    ImageOrientation "image-orientation" true "from-image" Keywords(&["from-image", "none"]);
    InterpolateSize "interpolate-size" true "numeric-only" Keywords(&["numeric-only", "allow-keywords"]);
    LightingColor "lighting-color" false "white" Grammar::Color;
    LineClamp "-webkit-line-clamp" false "none" Count { keywords: &["none"], most: 2147483647.0 };
    MaskClip "mask-clip" false "border-box" CommaOf(&Keywords(MASK_CLIPS));
    MaskComposite "mask-composite" false "add" CommaOf(&Keywords(&["add", "subtract", "intersect", "exclude"]));
    MaskMode "mask-mode" false "match-source" CommaOf(&Keywords(&["match-source", "alpha", "luminance"]));
    MaskOrigin "mask-origin" false "border-box" CommaOf(&Keywords(MASK_BOXES));
    MaskPositionX "-webkit-mask-position-x" false "0%" CommaOf(&Position(&["left", "center", "right"]));
    MaskPositionY "-webkit-mask-position-y" false "0%" CommaOf(&Position(&["top", "center", "bottom"]));
    MaskRepeat "mask-repeat" false "repeat" CommaOf(&Repeat);
    MaskSize "mask-size" false "auto" CommaOf(&Size);
    MaskType "mask-type" false "luminance" Keywords(&["luminance", "alpha"]);
    MathShift "math-shift" true "normal" Keywords(&["normal", "compact"]);
    MathStyle "math-style" true "normal" Keywords(&["normal", "compact"]);
    PerspectiveOrigin "perspective-origin" false "50% 50%" PositionPair;
    Quotes "quotes" true "auto" Grammar::Quotes;
    RubyAlign "ruby-align" true "space-around" Keywords(&["space-around", "start", "center", "space-between"]);
    RubyPosition "ruby-position" true "over" Keywords(&["over", "under"]);
    ScrollSnapAlign "scroll-snap-align" false "none" Grammar::Words(&["none", "start", "end", "center"]);
    ScrollSnapStop "scroll-snap-stop" false "normal" Keywords(&["normal", "always"]);
    ScrollSnapType "scroll-snap-type" false "none" Grammar::Words(&["none"]);
    ShapeImageThreshold "shape-image-threshold" false "0" Alpha;
    ShapeMargin "shape-margin" false "0px" Length { percent: true, negative: false, keywords: &[] };
    ShapeOutside "shape-outside" false "none" Grammar::Words(&["none"]);
    ShapeRendering "shape-rendering" true "auto" Keywords(&["auto", "optimizespeed", "crispedges", "geometricprecision"]);
    StopColor "stop-color" false "black" Grammar::Color;
    StopOpacity "stop-opacity" false "1" Alpha;
    StrokeDasharray "stroke-dasharray" true "none" Grammar::Words(&["none"]);
    StrokeDashoffset "stroke-dashoffset" true "0px" Grammar::DashOffset;
    StrokeMiterlimit "stroke-miterlimit" true "4" NumberOr { keywords: &[], min: 0.0 };
    TapHighlightColor "-webkit-tap-highlight-color" true "rgba(0, 0, 0, 0.18)" Grammar::Color;
    TextAnchor "text-anchor" true "start" Keywords(&["start", "middle", "end"]);
    TextCombineUpright "text-combine-upright" true "none" Keywords(&["none", "all"]);
    TextEmphasisColor "text-emphasis-color" true "currentcolor" Grammar::Color;
    TextEmphasisPosition "text-emphasis-position" true "over" Grammar::Words(&["over"]);
    TextEmphasisStyle "text-emphasis-style" true "none" Grammar::Words(&["none"]);
    TextFillColor "-webkit-text-fill-color" true "currentcolor" Grammar::Color;
    TextJustify "text-justify" true "auto" Keywords(&["auto", "none", "inter-word", "inter-character"]);
    TextOrientation "text-orientation" true "mixed" Keywords(&["mixed", "upright", "sideways"]);
    TextSecurity "-webkit-text-security" true "none" Keywords(&["none", "disc", "circle", "square"]);
    TextSizeAdjust "text-size-adjust" true "auto" Grammar::SizeAdjust;
    TextStrokeColor "-webkit-text-stroke-color" true "currentcolor" Grammar::Color;
    TextStrokeWidth "-webkit-text-stroke-width" true "0px" Grammar::StrokeOfText;
    TransformBox "transform-box" false "view-box" Keywords(&["content-box", "border-box", "fill-box", "stroke-box", "view-box"]);
    UserDrag "-webkit-user-drag" false "auto" Keywords(&["auto", "none", "element"]);
    VectorEffect "vector-effect" false "none" Keywords(&["none", "non-scaling-stroke"]);
}

/// Logical longhands, with the physical one they map to in horizontal text from left to right, and from right to left.
static LOGICAL: &[(&str, Longhand, Longhand)] = &[
    ("overscroll-behavior-block", Longhand::OverscrollBehaviorY, Longhand::OverscrollBehaviorY),
    ("overscroll-behavior-inline", Longhand::OverscrollBehaviorX, Longhand::OverscrollBehaviorX),
    ("overflow-block", Longhand::OverflowY, Longhand::OverflowY),
    ("overflow-inline", Longhand::OverflowX, Longhand::OverflowX),
    ("scroll-margin-block-start", Longhand::ScrollMarginTop, Longhand::ScrollMarginTop),
    ("scroll-margin-block-end", Longhand::ScrollMarginBottom, Longhand::ScrollMarginBottom),
    ("scroll-margin-inline-start", Longhand::ScrollMarginLeft, Longhand::ScrollMarginRight),
    ("scroll-margin-inline-end", Longhand::ScrollMarginRight, Longhand::ScrollMarginLeft),
    ("scroll-padding-block-start", Longhand::ScrollPaddingTop, Longhand::ScrollPaddingTop),
    ("scroll-padding-block-end", Longhand::ScrollPaddingBottom, Longhand::ScrollPaddingBottom),
    ("scroll-padding-inline-start", Longhand::ScrollPaddingLeft, Longhand::ScrollPaddingRight),
    ("scroll-padding-inline-end", Longhand::ScrollPaddingRight, Longhand::ScrollPaddingLeft),
    ("contain-intrinsic-block-size", Longhand::ContainIntrinsicHeight, Longhand::ContainIntrinsicHeight),
    ("contain-intrinsic-inline-size", Longhand::ContainIntrinsicWidth, Longhand::ContainIntrinsicWidth),
    ("block-size", Longhand::Height, Longhand::Height),
    ("inline-size", Longhand::Width, Longhand::Width),
    ("min-block-size", Longhand::MinHeight, Longhand::MinHeight),
    ("min-inline-size", Longhand::MinWidth, Longhand::MinWidth),
    ("max-block-size", Longhand::MaxHeight, Longhand::MaxHeight),
    ("max-inline-size", Longhand::MaxWidth, Longhand::MaxWidth),
    ("margin-block-start", Longhand::MarginTop, Longhand::MarginTop),
    ("margin-block-end", Longhand::MarginBottom, Longhand::MarginBottom),
    ("margin-inline-start", Longhand::MarginLeft, Longhand::MarginRight),
    ("margin-inline-end", Longhand::MarginRight, Longhand::MarginLeft),
    ("padding-block-start", Longhand::PaddingTop, Longhand::PaddingTop),
    ("padding-block-end", Longhand::PaddingBottom, Longhand::PaddingBottom),
    ("padding-inline-start", Longhand::PaddingLeft, Longhand::PaddingRight),
    ("padding-inline-end", Longhand::PaddingRight, Longhand::PaddingLeft),
    ("inset-block-start", Longhand::Top, Longhand::Top),
    ("inset-block-end", Longhand::Bottom, Longhand::Bottom),
    ("inset-inline-start", Longhand::Left, Longhand::Right),
    ("inset-inline-end", Longhand::Right, Longhand::Left),
    ("border-block-start-width", Longhand::BorderTopWidth, Longhand::BorderTopWidth),
    ("border-block-end-width", Longhand::BorderBottomWidth, Longhand::BorderBottomWidth),
    ("border-inline-start-width", Longhand::BorderLeftWidth, Longhand::BorderRightWidth),
    ("border-inline-end-width", Longhand::BorderRightWidth, Longhand::BorderLeftWidth),
    ("border-block-start-style", Longhand::BorderTopStyle, Longhand::BorderTopStyle),
    ("border-block-end-style", Longhand::BorderBottomStyle, Longhand::BorderBottomStyle),
    ("border-inline-start-style", Longhand::BorderLeftStyle, Longhand::BorderRightStyle),
    ("border-inline-end-style", Longhand::BorderRightStyle, Longhand::BorderLeftStyle),
    ("border-block-start-color", Longhand::BorderTopColor, Longhand::BorderTopColor),
    ("border-block-end-color", Longhand::BorderBottomColor, Longhand::BorderBottomColor),
    ("border-inline-start-color", Longhand::BorderLeftColor, Longhand::BorderRightColor),
    ("border-inline-end-color", Longhand::BorderRightColor, Longhand::BorderLeftColor),
    ("border-start-start-radius", Longhand::BorderTopLeftRadius, Longhand::BorderTopRightRadius),
    ("border-start-end-radius", Longhand::BorderTopRightRadius, Longhand::BorderTopLeftRadius),
    ("border-end-start-radius", Longhand::BorderBottomLeftRadius, Longhand::BorderBottomRightRadius),
    ("border-end-end-radius", Longhand::BorderBottomRightRadius, Longhand::BorderBottomLeftRadius),
];

/// Other names of modelled longhands that Chromium has no entry of its own for.
static ALIASES: &[(&str, Longhand)] = &[
    ("-webkit-background-origin", Longhand::BackgroundOrigin),
    ("-webkit-box-decoration-break", Longhand::BoxDecorationBreak),
    ("-webkit-line-break", Longhand::LineBreak),
    ("-webkit-writing-mode", Longhand::WritingMode),
    ("font-width", Longhand::FontStretch),
];

/// What a property's name says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum PropertyName {
    /// A modelled longhand.
    Longhand(Longhand),
    /// A logical longhand, an index into the table of logical properties.
    Logical(Logical),
    /// A shorthand.
    Shorthand(Shorthand),
    /// A shorthand of the browser that is not modelled: what it sets is not known.
    Unlearned(Unlearned),
    /// `all`: everything but the direction of text.
    All,
    /// A custom property.
    Custom,
    /// A property of CSS that is not modelled.
    Other,
    /// No property at all.
    Unknown,
}

/// A logical longhand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Logical(u8);

/// The way text runs: what logical properties map by (CSS Logical 1, section 4).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub struct Flow(u8);

impl Flow {
    /// How many there are.
    pub const COUNT: usize = 6;
    /// Horizontal, left to right.
    pub const LTR: Flow = Flow(0);
    /// Horizontal, right to left.
    pub const RTL: Flow = Flow(1);

    /// The flow of a writing mode and a direction.
    pub fn new(writing_mode: &str, rtl: bool) -> Flow {
        let mode = match writing_mode {
            "vertical-rl" | "sideways-rl" => 2,
            "vertical-lr" => 4,
            // Lines run upwards: as a vertical mode in the other direction.
            "sideways-lr" => return Flow(4 + u8::from(!rtl)),
            _ => 0,
        };
        Flow(mode + u8::from(rtl))
    }

    /// Every flow.
    pub fn all() -> impl Iterator<Item = Flow> {
        (0..Flow::COUNT as u8).map(Flow)
    }

    /// Its index, below [`Flow::COUNT`].
    pub fn index(self) -> usize {
        usize::from(self.0)
    }
}

/// The longhand in every flow, by logical property.
static PHYSICAL: LazyLock<Vec<[Longhand; Flow::COUNT]>> = LazyLock::new(|| {
    let rotated = |name: &str, flow: Flow| -> Option<Longhand> {
        let (start, end) = if flow.0 < 4 { ("right", "left") } else { ("left", "right") };
        let (first, last) = if flow.0.is_multiple_of(2) { ("top", "bottom") } else { ("bottom", "top") };
        // The sides of horizontal text from left to right, and where they go.
        let turned: Vec<&str> = name
            .split('-')
            .map(|word| match word {
                "top" => start,
                "bottom" => end,
                "left" => first,
                "right" => last,
                "x" => "y",
                "y" => "x",
                "width" if !name.starts_with("border") => "height",
                "height" => "width",
                other => other,
            })
            .collect();
        let mut turned = turned;
        if turned.last() == Some(&"radius") {
            // Corners are named by the vertical side first.
            let vertical = |word: &&str| *word == "top" || *word == "bottom";
            if !vertical(&turned[1]) {
                turned.swap(1, 2);
            }
        }
        Longhand::find(&turned.join("-"))
    };
    LOGICAL
        .iter()
        .map(|(_, ltr, rtl)| {
            let mut all = [*ltr; Flow::COUNT];
            all[1] = *rtl;
            for flow in Flow::all().skip(2) {
                all[flow.index()] = rotated(ltr.name(), flow).unwrap_or(*ltr);
            }
            all
        })
        .collect()
});

impl Logical {
    /// The physical longhand in a flow.
    pub fn physical(self, flow: Flow) -> Longhand {
        PHYSICAL[usize::from(self.0)][flow.index()]
    }

    /// Its name.
    pub fn name(self) -> &'static str {
        LOGICAL[usize::from(self.0)].0
    }
}

impl Longhand {
    /// Its name.
    pub fn name(self) -> &'static str {
        self.row().name
    }

    /// Whether it is inherited by default.
    pub fn inherited(self) -> bool {
        self.row().inherited
    }

    /// Its initial value as CSS.
    pub fn initial(self) -> &'static str {
        self.row().initial
    }

    /// Whether its values are colours, or keywords in place of one.
    pub fn is_color(self) -> bool {
        matches!(self.grammar(), Grammar::Color | Grammar::ColorOr(_) | Grammar::Paint)
    }

    /// Whether its values are widths of lines, which browsers draw in whole device pixels.
    pub fn is_line_width(self) -> bool {
        matches!(self.grammar(), Grammar::LineWidth)
    }

    /// The pictures that it has one value for each of, if it has: those of the background or of the mask.
    pub fn pictures(self) -> Option<Longhand> {
        use Longhand as L;
        match self {
            L::BackgroundAttachment
            | L::BackgroundBlendMode
            | L::BackgroundClip
            | L::BackgroundOrigin
            | L::BackgroundPositionX
            | L::BackgroundPositionY
            | L::BackgroundRepeat
            | L::BackgroundSize => Some(L::BackgroundImage),
            L::MaskClip
            | L::MaskComposite
            | L::MaskMode
            | L::MaskOrigin
            | L::MaskPositionX
            | L::MaskPositionY
            | L::MaskRepeat
            | L::MaskSize => Some(L::MaskImage),
            _ => None,
        }
    }

    /// Its grammar.
    pub(crate) fn grammar(self) -> &'static Grammar {
        &self.row().grammar
    }

    /// The longhand with this name.
    pub fn find(name: &str) -> Option<Longhand> {
        match PropertyName::read(name) {
            PropertyName::Longhand(longhand) => Some(longhand),
            _ => None,
        }
    }
}

impl PropertyName {
    /// Looks a name up; names are in lower case, custom properties as they are.
    pub fn read(name: &str) -> PropertyName {
        if name.starts_with("--") {
            return PropertyName::Custom;
        }
        if name == "all" {
            return PropertyName::All;
        }
        if let Ok(index) = ROWS_BY_NAME.binary_search_by(|i| ROWS[usize::from(*i)].name.cmp(name)) {
            return PropertyName::Longhand(Longhand::ALL[usize::from(ROWS_BY_NAME[index])]);
        }
        if let Some(index) = LOGICAL.iter().position(|(known, _, _)| *known == name) {
            return PropertyName::Logical(Logical(index as u8));
        }
        if let Some((_, longhand)) = ALIASES.iter().find(|(known, _)| *known == name) {
            return PropertyName::Longhand(*longhand);
        }
        if let Some(shorthand) = SHORTHANDS.iter().find(|shorthand| shorthand.name() == name) {
            return PropertyName::Shorthand(*shorthand);
        }
        if let Some(known) = chromium::read(name) {
            return known;
        }
        let vendor = name.starts_with("-webkit-") || name.starts_with("-moz-") || name.starts_with("-ms-");
        if vendor || KNOWN_NAMES.contains(&name) { PropertyName::Other } else { PropertyName::Unknown }
    }

    /// Whether Chromium has a property of this name in lower case, other than a custom one.
    pub fn is_of_chromium(name: &str) -> bool {
        name == "all" || chromium::read(name).is_some()
    }

    /// The words its value may be, where words are all it may be.
    pub fn keywords(self) -> &'static [&'static str] {
        match self {
            PropertyName::Longhand(longhand) => longhand.grammar().keywords(),
            _ => &[],
        }
    }

    /// What its value may be, in words.
    pub fn describe(self) -> Option<String> {
        match self {
            PropertyName::Longhand(longhand) => Some(longhand.grammar().describe()),
            PropertyName::Logical(logical) => Some(logical.physical(Flow::LTR).grammar().describe()),
            PropertyName::Shorthand(shorthand) => {
                let names: Vec<&str> = shorthand.longhand_names().collect();
                Some(format!("values of {}", stilk_text::diagnostic::list(&names)))
            }
            PropertyName::All => Some("inherit, initial, unset, revert or revert-layer".into()),
            PropertyName::Unlearned(_) | PropertyName::Custom | PropertyName::Other | PropertyName::Unknown => None,
        }
    }

    /// Every name that is known, for offering the nearest.
    pub fn all() -> impl Iterator<Item = &'static str> {
        let is_other = |name: &&str| {
            !ROWS.iter().any(|row| row.name == *name)
                && !LOGICAL.iter().any(|(known, _, _)| known == name)
                && !SHORTHANDS.iter().any(|shorthand| shorthand.name() == *name)
                && !ALIASES.iter().any(|(known, _)| known == name)
        };
        ROWS.iter()
            .map(|row| row.name)
            .chain(LOGICAL.iter().map(|(name, _, _)| *name))
            .chain(SHORTHANDS.iter().map(|shorthand| shorthand.name()))
            .chain(ALIASES.iter().map(|(name, _)| *name))
            .chain(["all"])
            .chain(chromium::names().chain(KNOWN_NAMES.iter().copied()).filter(is_other))
    }
}

/// Row indices sorted by name, so that a lookup is a binary search.
static ROWS_BY_NAME: LazyLock<Vec<u16>> = LazyLock::new(|| {
    let mut order: Vec<u16> = (0..ROWS.len() as u16).collect();
    order.sort_by_key(|i| ROWS[usize::from(*i)].name);
    order
});

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn logical_sides_turn_with_the_text() {
        let physical = |name: &str, flow: Flow| match PropertyName::read(name) {
            PropertyName::Logical(logical) => logical.physical(flow).name(),
            _ => panic!("{name}"),
        };
        let vertical = Flow::new("vertical-rl", false);
        for (name, turned) in [
            ("margin-block-start", "margin-right"),
            ("padding-inline-start", "padding-top"),
            ("inset-inline-end", "bottom"),
            ("border-block-end-width", "border-left-width"),
            ("inline-size", "height"),
            ("max-block-size", "max-width"),
            ("border-start-start-radius", "border-top-right-radius"),
            ("border-end-start-radius", "border-top-left-radius"),
        ] {
            assert_eq!(physical(name, vertical), turned, "{name}");
        }
        assert_eq!(physical("inset-inline-start", Flow::new("vertical-lr", true)), "bottom");
    }

    #[test]
    fn the_table_is_whole() {
        for longhand in Longhand::ALL {
            assert_eq!(Longhand::find(longhand.name()), Some(*longhand));
            let initial = super::super::parse::parse_longhand(*longhand, longhand.initial());
            assert!(initial.is_ok(), "{}: the initial value is not read", longhand.name());
        }
        let mut names: Vec<_> = PropertyName::all().collect();
        names.sort_unstable();
        let count = names.len();
        names.dedup();
        assert_eq!(names.len(), count, "a name stands in two tables");
    }
}

// Prints, for a tree of Kotlin files, which file names what another declares,
// as the Kotlin compiler's own analysis resolves it: see ../compare.
//
//	kotlinc -cp kotlin-compiler.jar pairs.kt -d pairs.jar
//	usage: java -cp pairs.jar:kotlin-compiler.jar:… PairsKt FOLDER [CLASSPATH] > PAIRS.tsv
//
// Extensions that are called without an import are "maybe": which one is
// meant, only inference tells.
import java.io.File
import org.jetbrains.kotlin.cli.common.CLIConfigurationKeys
import org.jetbrains.kotlin.cli.common.messages.MessageCollector
import org.jetbrains.kotlin.cli.jvm.compiler.*
import org.jetbrains.kotlin.cli.jvm.config.*
import com.intellij.openapi.util.Disposer
import com.intellij.psi.PsiElement
import org.jetbrains.kotlin.config.*
import org.jetbrains.kotlin.descriptors.*
import org.jetbrains.kotlin.psi.*
import org.jetbrains.kotlin.resolve.BindingContext
import org.jetbrains.kotlin.resolve.DescriptorToSourceUtils
import org.jetbrains.kotlin.resolve.DescriptorUtils

fun main(args: Array<String>) {
    val root = File(args[0]).canonicalFile
    val configuration = CompilerConfiguration()
    configuration.put(CLIConfigurationKeys.MESSAGE_COLLECTOR_KEY, MessageCollector.NONE)
    configuration.put(CommonConfigurationKeys.MODULE_NAME, "tree")
    val sources = root.walkTopDown().filter { it.isFile && it.extension == "kt" }.toList()
    for (f in sources) configuration.add(CLIConfigurationKeys.CONTENT_ROOTS, org.jetbrains.kotlin.cli.common.config.KotlinSourceRoot(f.path, false))
    root.walkTopDown().filter { it.isDirectory && (it.name == "src" || it.name == "java") }.forEach { configuration.add(CLIConfigurationKeys.CONTENT_ROOTS, JavaSourceRoot(it, null)) }
    if (args.size > 1) args[1].split(":").forEach { configuration.addJvmClasspathRoot(File(it)) }
    configuration.addJvmClasspathRoots(org.jetbrains.kotlin.utils.PathUtil.getJdkClassesRootsFromCurrentJre())
    configuration.put(JVMConfigurationKeys.JDK_HOME, File(System.getProperty("java.home")))
    val environment = KotlinCoreEnvironment.createForProduction(Disposer.newDisposable(), configuration, EnvironmentConfigFiles.JVM_CONFIG_FILES)
    val files = environment.getSourceFiles()
    val trace = org.jetbrains.kotlin.cli.jvm.compiler.NoScopeRecordCliBindingTrace()
    TopDownAnalyzerFacadeForJVM.analyzeFilesWithJavaIntegration(environment.project, files, trace, configuration, { scope -> environment.createPackagePartProvider(scope) })
    val context = trace.bindingContext
    fun path(f: com.intellij.psi.PsiFile?): String? {
        val p = f?.virtualFile?.path ?: return null
        return if (p.startsWith(root.path + "/")) p.substring(root.path.length + 1) else null
    }
    val out = java.util.TreeSet<String>()
    for (file in files) {
        val from = path(file) ?: continue
        println("file\t$from")
        fun add(d: DeclarationDescriptor?, at: KtReferenceExpression) {
            if (d == null || d is PackageViewDescriptor || d is PackageFragmentDescriptor) return
            // What is named is the member; it lies in the file of what declares it. A
            // member of an instance is not named by itself.
            val outer = d.containingDeclaration
            if (outer is ClassDescriptor && d !is ClassifierDescriptor && d !is ConstructorDescriptor && DescriptorUtils.isCompanionObject(outer).not() && outer.kind != ClassKind.OBJECT && outer.kind != ClassKind.ENUM_CLASS) return
            val psi: PsiElement = DescriptorToSourceUtils.descriptorToDeclaration(d) ?: return
            val to = path(psi.containingFile) ?: return
            if (to == from) return
            val member = outer is ClassDescriptor && d !is ClassifierDescriptor && d !is ConstructorDescriptor
            val imported = file.importDirectives.any { i -> i.importedFqName?.shortName()?.asString() == at.text }
            val extension = d is CallableDescriptor && d.extensionReceiverParameter != null && !imported
            out.add((if (member || extension) "maybe\t" else "") + "$from\t$to")
        }
        file.accept(object : KtTreeVisitorVoid() {
            override fun visitReferenceExpression(e: KtReferenceExpression) {
                super.visitReferenceExpression(e)
                if (e !is KtSimpleNameExpression || e is KtOperationReferenceExpression && e.text.firstOrNull()?.isLetter() != true) return
                val one = context.get(BindingContext.REFERENCE_TARGET, e)
                if (one != null) {
                    add(one, e)
                    // The name of an object stands for it, the name of a constructor for its class.
                    if (one is ConstructorDescriptor) add(one.containingDeclaration, e)
                } else context.get(BindingContext.AMBIGUOUS_REFERENCE_TARGET, e)?.forEach { d ->
                    val psi = DescriptorToSourceUtils.descriptorToDeclaration(d)
                    val to = path(psi?.containingFile)
                    if (to != null && to != from) out.add("maybe\t$from\t$to")
                }
            }
        })
    }
    out.forEach { println(it) }
}

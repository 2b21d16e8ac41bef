package ancora.app.store;

import javax.sql.DataSource;
import org.apache.ibatis.mapping.Environment;
import org.apache.ibatis.session.defaults.DefaultSqlSessionFactory;
import org.mybatis.spring.SqlSessionTemplate;
import org.mybatis.spring.transaction.SpringManagedTransactionFactory;
import org.springframework.boot.sql.init.dependency.DependsOnDatabaseInitialization;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What asks the database, by name: nothing is looked for on the class path at each start. */
@Configuration(proxyBeanMethods = false)
class Tables {

  @Bean
  @DependsOnDatabaseInitialization
  SqlSessionTemplate sessions(DataSource database) {
    var rules =
        new org.apache.ibatis.session.Configuration(
            new Environment("ancora", new SpringManagedTransactionFactory(), database));
    rules.setMapUnderscoreToCamelCase(true);
    rules.setArgNameBasedConstructorAutoMapping(true);
    rules.addMapper(ShowMapper.class);
    rules.addMapper(RunMapper.class);
    return new SqlSessionTemplate(new DefaultSqlSessionFactory(rules));
  }

  @Bean
  ShowMapper showMapper(SqlSessionTemplate sessions) {
    return sessions.getMapper(ShowMapper.class);
  }

  @Bean
  RunMapper runMapper(SqlSessionTemplate sessions) {
    return sessions.getMapper(RunMapper.class);
  }
}
